// What a worker thread begins with: threads do not inherit the loader of TypeScript.
import { register } from 'tsx/esm/api';
import { workerData } from 'piscina';

register();
const jobs = await import(workerData.jobs);

/** Does the job of a name. */
export default ({ name, asked }) => jobs[name](asked);
