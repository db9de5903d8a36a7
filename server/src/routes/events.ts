import { Router, type Response } from 'express';
import { ApiError } from '../work/faults.js';
import type { Workroom } from '../workroom/index.js';

const MOST_LISTENERS = 200;
const HEARTBEAT = 20_000;

/** Tells every page that listens what happened to which document, as server-sent events. */
export function eventRoutes(workroom: Workroom): Router {
  const router = Router();
  const open = new Set<Response>();

  const send = (text: string) => {
    for (const res of open) res.write(text);
  };
  workroom.listen((happening) => {
    if (happening !== 'missed') return send(`data: ${JSON.stringify(happening)}\n\n`);
    // Something may have gone unheard: pages connect anew, which has them ask for what they have missed.
    for (const res of open) res.end();
    open.clear();
  });
  // A line now and then shows either side that the other is gone.
  setInterval(() => send(':\n\n'), HEARTBEAT).unref();

  router.get('/', (req, res) => {
    if (open.size >= MOST_LISTENERS) throw new ApiError(503, 'Too many pages are listening.');
    res.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' });
    res.write('retry: 2000\n\n');
    open.add(res);
    req.once('close', () => open.delete(res));
  });
  return router;
}
