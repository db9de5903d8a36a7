import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { createApp } from './app.js';
import { bareError } from './errors.js';
import { seedDemo } from './demo/seed.js';
import { NewerDatabase, openDatabase } from './store/database.js';
import { DesignStore } from './store/designs.js';
import { FolderInUse } from './store/lock.js';

const root = fileURLToPath(new URL('../../', import.meta.url));
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn', serializers: { err: bareError } });
const folder = path.resolve(root, process.env.CORDELINA_DATA ?? 'data');
const port = Number(process.env.PORT?.trim() || 5310);
const address = process.env.HOST ?? '127.0.0.1';
const hosts = (process.env.CORDELINA_HOSTS ?? '')
  .split(',')
  .map((h) => h.trim().toLowerCase())
  .filter(Boolean);

function giveUp(message: string): never {
  console.error(message);
  process.exit(1);
}

if (!Number.isInteger(port) || port < 0 || port > 65535)
  giveUp(`PORT must be a port number, not "${process.env.PORT}".`);

if (!existsSync(folder)) console.log(`Laying out a new workroom in ${folder} …`);
const database = await openDatabase(folder).catch((error: unknown) => {
  if (error instanceof FolderInUse || error instanceof NewerDatabase) giveUp(error.message);
  throw error;
});
const store = new DesignStore(database.db);
if (database.fresh) await seedDemo(store);

const app = createApp({ store, log, page: path.join(root, 'web/dist'), hosts });
const server = app.listen(port, address, (error?: Error) => {
  if (error) giveUp(`Cannot listen on ${address}:${port}: ${error.message}. Choose another port with PORT.`);
  const bound = server.address();
  const shown = typeof bound === 'object' && bound ? bound.port : port;
  console.log(`Cordelina is open at http://${address === '127.0.0.1' ? 'localhost' : address}:${shown}`);
});

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
