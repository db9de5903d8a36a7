import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.js';
import { seedDemo } from './demo/seed.js';
import { bareError } from './errors.js';
import { BadSetting, readSettings, type ServerSettings } from './settings.js';
import { StoreTrouble } from './store/db.js';
import { openStore } from './store/open.js';
import { giveBackSoon } from './work/memory.js';
import { makeWorkers } from './work/workers.js';
import { backUpEvery } from './workroom/backup.js';
import { Workroom } from './workroom/index.js';

const root = fileURLToPath(new URL('../../', import.meta.url));
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn', serializers: { err: bareError } });

function giveUp(message: string): never {
  console.error(message);
  process.exit(1);
}

function settings(): ServerSettings {
  try {
    return readSettings(process.env, root);
  } catch (error) {
    if (error instanceof BadSetting) giveUp(error.message);
    throw error;
  }
}
const { database, folder, port, address, hosts, backup } = settings();

const workers = makeWorkers();
// The first thread begins while the database is opened; the others when the program answers.
const thread = workers.compute.run('ready', null).catch(() => undefined);
const db = await openStore(
  { database, folder },
  {
    seed: seedDemo,
    say: (sentence) => console.log(sentence),
    // Another program has the folder now, or it is gone: nothing more may be written.
    onLost: (why) => giveUp(`${why} This server stops; open pages keep their edits.`),
  },
).catch((error: unknown) => {
  if (error instanceof StoreTrouble) giveUp(error.message);
  throw error;
});
const workroom = await Workroom.open(db, workers, log);

await thread;
const endBackups = backup ? backUpEvery(workroom, backup.folder, backup.hours, log) : () => undefined;
const app = createApp({
  workroom,
  workers,
  log,
  page: path.join(root, 'web/dist'),
  hosts,
});
const server = app.listen(port, address, (error?: Error) => {
  if (error) giveUp(`Cannot listen on ${address}:${port}: ${error.message}. Choose another port with PORT.`);
  const bound = server.address();
  const shown = typeof bound === 'object' && bound ? bound.port : port;
  // What laying out a folder took is not needed any more.
  void Promise.all([workers.compute.start(), workers.keeper.start()]).then(() => giveBackSoon());
  console.log(`Cordelina is open at http://${address === '127.0.0.1' ? 'localhost' : address}:${shown}`);
});
// A page's connection outlives its pauses, so that it is not closed just as it is used again.
server.keepAliveTimeout = 65_000;

let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  endBackups();
  server.close();
  server.closeIdleConnections();
  // Open requests get a moment to end; then the database is closed and the process with it.
  setTimeout(() => server.closeAllConnections(), 1500).unref();
  server.once(
    'close',
    () =>
      void workroom
        .close()
        .then(() => db.close())
        .finally(() => process.exit(0)),
  );
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
