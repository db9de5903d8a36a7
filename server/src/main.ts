import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.js';
import { seedDemo } from './demo/seed.js';
import { bareError } from './errors.js';
import { BadSetting, readSettings, type ServerSettings } from './settings.js';
import { openDatabase } from './store/database.js';
import { DesignStore } from './store/designs.js';
import { StudioStore } from './store/studio.js';
import { SwatchStore } from './store/swatches.js';
import { FolderTrouble } from './store/folder.js';
import { Upkeep } from './store/upkeep.js';
import { makeWorkers } from './work/workers.js';
import { Workroom } from './workroom.js';

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
const { folder, port, address, hosts } = settings();

if (!existsSync(folder)) console.log(`Laying out a new workroom in ${folder} …`);
const workers = makeWorkers();
// The first thread begins while the database is opened; the others when the program answers.
const thread = workers.compute.run('ready', null).catch(() => undefined);
const database = await openDatabase(folder, {
  seed: (db) => seedDemo(new DesignStore(db), new SwatchStore(db)),
  // Another program has the folder now, or it is gone: nothing more may be written.
  onLost: (why) => giveUp(`${why} This server stops; open pages keep their edits.`),
}).catch((error: unknown) => {
  if (error instanceof FolderTrouble) giveUp(error.message);
  throw error;
});
const { db } = database;
const workroom = new Workroom(new DesignStore(db), workers, log, new Upkeep(db));

await thread;
const app = createApp({
  workroom,
  studio: new StudioStore(db),
  swatches: new SwatchStore(db),
  workers,
  log,
  page: path.join(root, 'web/dist'),
  hosts,
});
const server = app.listen(port, address, (error?: Error) => {
  if (error) giveUp(`Cannot listen on ${address}:${port}: ${error.message}. Choose another port with PORT.`);
  const bound = server.address();
  const shown = typeof bound === 'object' && bound ? bound.port : port;
  void Promise.all([workers.compute.start(), workers.keeper.start()]);
  console.log(`Cordelina is open at http://${address === '127.0.0.1' ? 'localhost' : address}:${shown}`);
});
// A page's connection outlives its pauses, so that it is not closed just as it is used again.
server.keepAliveTimeout = 65_000;

let stopping = false;
function stop(): void {
  if (stopping) return;
  stopping = true;
  server.close();
  server.closeIdleConnections();
  // Open requests get a moment to end; then the database is closed and the process with it.
  setTimeout(() => server.closeAllConnections(), 1500).unref();
  server.once('close', () => void database.close().finally(() => process.exit(0)));
}
process.on('SIGTERM', stop);
process.on('SIGINT', stop);
