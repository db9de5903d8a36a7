import { expect } from 'chai';
import { readPatterns } from '@cordelina/core';
import { spawn } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { unzipSync, zipSync } from 'fflate';

/** The command line as a process of its own, as an editor's script runs it. */

const CLI = fileURLToPath(new URL('../cordelina.mjs', import.meta.url));
const CORPUS = fileURLToPath(new URL('../../core/test/written-patterns.json', import.meta.url));

interface Run {
  code: number;
  out: Buffer;
  text: string;
  said: string;
}
let folder: string;

function run(
  args: readonly string[],
  { input = '', env = {} }: { input?: string; env?: Record<string, string> } = {},
): Promise<Run> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [CLI, ...args], { cwd: folder, env: { ...process.env, ...env } });
    const out: Buffer[] = [];
    let said = '';
    child.stdout.on('data', (part: Buffer) => out.push(part));
    child.stderr.on('data', (part: Buffer) => (said += String(part)));
    child.on('close', (code) => {
      const whole = Buffer.concat(out);
      resolve({ code: code ?? -1, out: whole, text: whole.toString(), said });
    });
    child.stdin.end(input);
  });
}
const at = (...names: string[]) => path.join(folder, ...names);
const GOOD = 'Cast on 8 sts.\nRow 1 (RS): p2, 2/2 LC, p2.\nRow 2 (WS): k2, p4, k2.\n';
const SHORT = 'Cast on 8 sts.\nRow 1 (RS): k8.\nRow 2 (WS): p7.\n';

describe('the command line', () => {
  before(() => {
    folder = mkdtempSync(path.join(tmpdir(), 'cordelina-cli-'));
    mkdirSync(at('patterns', 'deep'), { recursive: true });
    writeFileSync(at('patterns', 'good.txt'), GOOD);
    writeFileSync(at('patterns', 'deep', 'short.txt'), SHORT);
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('finds what does not add up, by file and row, and says so by its exit code', async () => {
    const good = await run(['check', 'patterns/good.txt']);
    expect(good).to.include({ code: 0 });
    expect(good.said).to.match(/^1 file, 1 proved; 0 errors/);
    const short = await run(['check', 'patterns/**/*.txt']);
    expect(short.code).to.equal(1);
    expect(short.text).to.match(/^patterns\/deep\/short\.txt:2: error: Row 2 works 7 of 8 stitches/m);
    expect(short.text).to.not.match(/good\.txt:\d+: error/);
    expect(short.said).to.match(/^2 files, 1 proved; 1 error,/m);
    const piped = await run(['check', '-', '--quiet'], { input: SHORT });
    expect(piped).to.include({ code: 1, said: '' });
    expect(piped.text).to.match(/^-:2: error/);
  });

  it('tells findings as JSON', async () => {
    const { code, text } = await run(['check', '--json', 'patterns/deep/short.txt', 'none.txt']);
    expect(code).to.equal(2);
    const { files, errors } = JSON.parse(text);
    expect(errors).to.equal(2);
    expect(
      files.map((f: { file: string; kind: string; proved: boolean }) => [f.kind, f.proved]),
    ).to.deep.equal([
      ['pattern', false],
      [null, false],
    ]);
    expect(files[0].findings[0]).to.include({ level: 'error', row: 2 });
  });

  it('says what it cannot do in one sentence, and how it is used', async () => {
    for (const [args, says] of [
      [['check'], /^Which files\?/],
      [['frobnicate'], /nothing that is known here/],
      [['check', '--school', 'mine', 'x'], /^--school is one of/],
      [['convert', 'patterns/good.txt'], /^Convert to what\?/],
      [['check', '--nonsense', 'x'], /nonsense/],
      [['check', 'none*.txt'], /^No file is called like/],
      [['write', 'patterns/good.txt', 'patterns/deep/short.txt'], /say --out DIR/],
      [['restore', 'patterns/good.txt'], /This file is no zip/],
    ] as const) {
      const { code, said } = await run(args);
      expect(code, args.join(' ')).to.equal(2);
      expect(said, args.join(' ')).to.match(says);
      expect(said.trim().split('\n').length, args.join(' ')).to.equal(1);
    }
    expect((await run(['--help'])).text).to.contain('cordelina check FILE');
    expect((await run(['check', 'patterns'])).text).to.match(/folder/);
  });

  it('reads, writes and converts, each form into the others, and writes nothing over', async () => {
    const read = await run(['read', 'patterns/good.txt', '--quiet']);
    expect(JSON.parse(read.text)).to.include({ title: 'good' });
    for (const to of ['json', 'xlsx', 'csv', 'html', 'md', 'txt', 'svg', 'pdf']) {
      const { code, said } = await run(['convert', 'patterns/good.txt', '--to', to, '-o', 'out']);
      expect(code, said).to.equal(0);
      expect(existsSync(at('out', `good.${to}`)), to).to.equal(true);
    }
    expect(readFileSync(at('out', 'good.pdf')).subarray(0, 5).toString()).to.equal('%PDF-');
    expect((await run(['convert', 'patterns/good.txt', '--to', 'csv', '-o', 'out'])).said).to.match(
      /is there already/,
    );
    expect(
      (await run(['convert', 'patterns/good.txt', '--to', 'csv', '-o', 'out', '--force'])).code,
    ).to.equal(0);
    // What goes out as a table, a workbook or words comes back with the same charts.
    const charts = async (name: string) =>
      (JSON.parse((await run(['read', name, '--quiet'])).text) as { charts: { rows: unknown }[] }).charts[0]!
        .rows;
    const rows = await charts('out/good.json');
    for (const form of ['csv', 'xlsx', 'txt'])
      expect(await charts(`out/good.${form}`), form).to.deep.equal(rows);
    const { said, code } = await run(['write', 'patterns/deep/short.txt']);
    expect(code).to.equal(2);
    expect(said).to.match(/short\.txt:2: Row 2 works 7 of 8/);
  });

  it('checks the whole corpus in one run, and agrees with the reader', async () => {
    const corpus = JSON.parse(readFileSync(CORPUS, 'utf8')) as {
      text: string;
      construction: 'flat' | 'round';
      firstRow: 'RS' | 'WS';
      school?: string;
    }[];
    mkdirSync(at('corpus'));
    const flat = corpus.filter(({ construction, firstRow }) => construction === 'flat' && firstRow === 'RS');
    flat.forEach(({ text }, i) => writeFileSync(at('corpus', `${i}.txt`), text));
    const { text } = await run(['check', 'corpus/*.txt', '--json', '--quiet']);
    const { files } = JSON.parse(text) as {
      files: { file: string; kind: string; findings: { level: string; id: string }[] }[];
    };
    expect(files.length).to.equal(flat.length);
    let agreeing = 0;
    for (const { file, kind, findings } of files) {
      expect(kind, file).to.equal('pattern');
      const source = flat[Number(/(\d+)\.txt$/.exec(file)![1])]!.text;
      const errors = readPatterns(source, { construction: 'flat', firstRow: 'RS' }).flatMap(({ reading }) =>
        reading.problems.filter(({ level, ask }) => ask !== undefined || level === 'error'),
      );
      const told = findings.filter(({ level }) => level === 'error').map(({ id }) => id);
      expect(told.slice(0, errors.length), file).to.deep.equal(errors.map(({ id }) => id));
      agreeing++;
    }
    expect(agreeing).to.be.greaterThan(40);
  });

  it('backs a workroom up and restores it into another, with what was named', async () => {
    const [here, there] = [at('here'), at('there')].map((data) => ({ CORDELINA_DATA: data }));
    const made = await run(['backup', 'all.zip'], { env: here! });
    expect(made.code, made.said).to.equal(0);
    expect((await run(['backup', 'all.zip'], { env: here! })).said).to.match(/is there already/);
    const files = unzipSync(readFileSync(at('all.zip')));
    expect(Object.keys(files)).to.include.members(['manifest.json', 'checksums.sha256']);
    // Another workroom, whose demo is as that one's was: nothing to do.
    const same = await run(['restore', 'all.zip'], { env: there! });
    expect(same.code, same.said).to.equal(0);
    expect(same.said).to.match(/0 are not there, \d+ are as they are, 0 differ/);
    // One byte changed, and one file left out, is found.
    const [design] = Object.keys(files).filter((name) => name.startsWith('designs/'));
    const spoil = (over: Record<string, Uint8Array>) =>
      writeFileSync(at('spoiled.zip'), zipSync({ ...files, ...over }, { level: 0 }));
    spoil({ [design!]: Buffer.from(Buffer.from(files[design!]!).toString().replace('"k"', '"p"')) });
    expect((await run(['restore', 'spoiled.zip'])).said).to.match(/spoiled: "designs\//);
    writeFileSync(
      at('spoiled.zip'),
      zipSync(Object.fromEntries(Object.entries(files).filter(([name]) => name !== design)), { level: 0 }),
    );
    expect((await run(['restore', 'spoiled.zip'])).said).to.match(/not whole: "designs\/.*" is missing/);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).to.deep.equal([]);
  });
});
