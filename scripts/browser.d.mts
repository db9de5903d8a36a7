/** Where the browser is that tests and benchmarks drive; null where none is. */
export function browserPath(): string | null;
/** Puts it there where it is not, or ends the program with what to do. */
export function haveBrowser(): void;
