import { Link } from 'react-router';

export function NotFound({ message = 'There is nothing at this address.' }: { message?: string }) {
  return (
    <main tabIndex={-1} className="outline-none grid h-full place-content-center gap-3 text-center">
      <h1 className="text-2xl">{message}</h1>
      <Link
        to="/"
        className="mx-auto inline-flex min-h-11 items-center text-woad underline underline-offset-4"
      >
        Back to the workroom
      </Link>
    </main>
  );
}
