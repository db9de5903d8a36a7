import { Choose, ChooseInLine } from './Field.js';

/** Which size is looked at, wherever that is chosen; nothing where there is only one. */
export function SizeChoice<T extends string | number>({
  sizes,
  value,
  isAbove = false,
  onChange,
}: {
  sizes: readonly { id: T; name: string }[];
  value: T;
  /** Whether its label stands above it, as in a form. */
  isAbove?: boolean;
  onChange: (id: T) => void;
}) {
  if (sizes.length < 2) return null;
  const options = sizes.map(({ id, name }) => [id, name] as const);
  return isAbove ? (
    <Choose label="Size" value={value} options={options} onChange={onChange} />
  ) : (
    <ChooseInLine label="Size" value={value} options={options} onChange={onChange} />
  );
}
