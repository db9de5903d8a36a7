import { counted } from '@cordelina/core';
import { createRequire } from 'node:module';
import { parseArgs } from 'node:util';
import { checked, line, type Checked } from './check.js';
import { inputOf, namesOf } from './inputs.js';
import { designIn, lay, made, type Target } from './make.js';
import { mannerOf } from './patterns.js';
import { EXIT, Misuse, USAGE } from './usage.js';
import { backup, restore, serve } from './workroom.js';

const OPTIONS = {
  out: { type: 'string', short: 'o' },
  to: { type: 'string' },
  json: { type: 'boolean' },
  strict: { type: 'boolean' },
  force: { type: 'boolean' },
  school: { type: 'string' },
  way: { type: 'string' },
  first: { type: 'string' },
  url: { type: 'string' },
  take: { type: 'string' },
  quiet: { type: 'boolean' },
  help: { type: 'boolean', short: 'h' },
  version: { type: 'boolean' },
} as const;

type Options = ReturnType<typeof parse>['values'];
const parse = (args: readonly string[]) =>
  parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true, strict: true });

const say = (text: string): void => void process.stdout.write(text.endsWith('\n') ? text : `${text}\n`);
const tell = (text: string): void => void process.stderr.write(`${text}\n`);

/** How far it is, where someone looks on. */
function progress(of: number, { quiet }: Options): (done: number) => void {
  if (quiet || of < 2 || !process.stderr.isTTY) return () => undefined;
  return (done) => process.stderr.write(done === of ? '\r\x1b[K' : `\r${done} of ${of}`);
}

async function check(given: readonly string[], options: Options): Promise<number> {
  const manner = mannerOf(options);
  const names = await namesOf(given);
  const show = progress(names.length, options);
  const all: Checked[] = [];
  let [errors, cautions, unread] = [0, 0, 0];
  for (const [i, name] of names.entries()) {
    const one = checked(await inputOf(name), manner);
    all.push(one);
    for (const { level } of one.findings) {
      if (level === 'error') errors++;
      if (level === 'caution') cautions++;
    }
    if (one.kind === null) unread++;
    show(i + 1);
    if (!options.json) for (const found of one.findings) say(line(one.file, found));
  }
  if (options.json) say(JSON.stringify({ files: all, errors, cautions }, null, 1));
  const proved = all.filter((one) => one.proved).length;
  if (!options.quiet)
    tell(
      `${counted(names.length, 'file')}, ${proved} proved; ${counted(errors, 'error')}, ${counted(cautions, 'caution')}`,
    );
  if (unread) return EXIT.failed;
  return errors || (options.strict && cautions) ? EXIT.found : EXIT.well;
}

/** Makes files of files: into a folder, or to standard output where there is one. */
async function make(given: readonly string[], to: Target, options: Options): Promise<number> {
  const manner = mannerOf(options);
  const names = await namesOf(given);
  if (names.length > 1 && !options.out)
    throw new Misuse('Several files need a folder to go to: say --out DIR.');
  const show = progress(names.length, options);
  const taken = new Set<string>();
  let code: number = EXIT.well;
  for (const [i, name] of names.entries()) {
    const design = designIn(await inputOf(name), manner);
    if (typeof design === 'string') {
      tell(`${name}${design.startsWith(':') ? '' : ': '}${design}`);
      code = EXIT.failed;
      continue;
    }
    const what = await made(design, to);
    if (what.left.length && !options.quiet) tell(`${name}: without ${what.left.join('; ')}`);
    if (options.out)
      for (const file of await lay(options.out, name, what, taken, options.force === true)) {
        if (!options.quiet) tell(file);
      }
    else if (what.files.length > 1) throw new Misuse(`This makes ${what.files.length} files: say --out DIR.`);
    else process.stdout.write(what.files[0]!.content);
    show(i + 1);
  }
  return code;
}

const TARGETS: readonly Target[] = ['json', 'xlsx', 'csv', 'html', 'md', 'txt', 'svg', 'pdf'];

async function run([command, ...args]: readonly string[]): Promise<number> {
  const { values: options, positionals } = parse(command?.startsWith('-') ? [command, ...args] : args);
  if (options.version) {
    say((createRequire(import.meta.url)('../package.json') as { version: string }).version);
    return EXIT.well;
  }
  if (options.help || !command || command === 'help') {
    say(USAGE);
    return command || options.help ? EXIT.well : EXIT.failed;
  }
  switch (command) {
    case 'check':
      return check(positionals, options);
    case 'write':
      return make(positionals, 'txt', options);
    case 'read':
      return make(positionals, 'json', options);
    case 'pdf':
      return make(positionals, 'pdf', options);
    case 'convert': {
      const to = TARGETS.find((target) => target === options.to);
      if (!to) throw new Misuse(`Convert to what? --to is one of ${TARGETS.join(', ')}.`);
      return make(positionals, to, options);
    }
    case 'backup':
      return backup(positionals, { ...options, tell: options.quiet ? () => undefined : tell });
    case 'restore':
      return restore(positionals, { ...options, tell: options.quiet ? () => undefined : tell });
    case 'serve':
      return serve(positionals);
    default:
      throw new Misuse(
        `"${command.slice(0, 40)}" is nothing that is known here. cordelina --help says what is.`,
      );
  }
}

// Whoever reads the output may have had enough of it.
process.stdout.on('error', (error: NodeJS.ErrnoException) =>
  process.exit(error.code === 'EPIPE' ? EXIT.well : EXIT.failed),
);
run(process.argv.slice(2)).then(
  (code) => (process.exitCode = code),
  (error: unknown) => {
    const { code } = error as { code?: string };
    const isMisuse = error instanceof Misuse || code?.startsWith('ERR_PARSE_ARGS');
    tell(
      isMisuse
        ? (error as Error).message
        : `It could not be done: ${error instanceof Error ? error.message : 'unknown'}`,
    );
    process.exitCode = EXIT.failed;
  },
);
