// The browser that the tests drive: Debian's Chromium. Its shell without windows does the same work in two thirds of the time.
// Node built-ins only, since it is asked before anything is installed.
import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';

/** Debian's packages of it, the quicker first; each puts a program of its name into /usr/bin. */
const PACKAGES = ['chromium-headless-shell', 'chromium'];
const programOf = (name) => `/usr/bin/${name}`;

/** Where the browser is: as CHROMIUM says, or the first that is there; null where none is. */
export const browserPath = () =>
  [process.env.CHROMIUM ?? PACKAGES.map(programOf)].flat().find((path) => existsSync(path)) ?? null;

/** Puts it there where it is not: as root, with Debian's packages. Ends the program with what to do where that cannot be. */
export function haveBrowser() {
  if (browserPath()) return;
  const wanted = process.env.CHROMIUM ?? programOf('chromium');
  const canInstall =
    process.platform === 'linux' && process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  if (canInstall && !process.env.CHROMIUM) {
    console.log('Installing Chromium …');
    const apt = (...args) => execFileSync('apt-get', [...args, '-qq'], { stdio: 'inherit' });
    apt('update');
    for (const name of PACKAGES)
      try {
        apt('install', '-y', '--no-install-recommends', name);
        break;
      } catch {
        console.log(`There is no package ${name} here.`);
      }
    if (browserPath()) return;
  }
  console.error(
    `The browser tests need Chromium at ${wanted}. Install it ("sudo apt-get install chromium"), or set CHROMIUM to where it is.`,
  );
  process.exit(1);
}
