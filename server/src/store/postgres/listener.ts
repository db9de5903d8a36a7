import pg from 'pg';
import type { Listening } from '../db.js';

/** A connection that says nothing is asked now and then whether it is still there. */
const SIGN_OF_LIFE = 15_000;
const FIRST_PAUSE = 250;
const LONGEST_PAUSE = 10_000;

/**
 * Listens at a channel over a connection of its own, which is made anew whenever it breaks off.
 *
 * @throws when the first connection cannot be made
 */
export async function listenAt(
  config: pg.ClientConfig,
  channel: string,
  hear: (told: string) => void,
  missed: () => void,
): Promise<Listening> {
  let stopped = false;
  let hears = false;
  let client: pg.Client | null = null;
  let timer: NodeJS.Timeout | null = null;

  const connect = async (): Promise<void> => {
    const mine = new pg.Client(config);
    client = mine;
    const lost = () => {
      if (client !== mine || stopped) return;
      client = null;
      hears = false;
      if (timer) clearInterval(timer);
      void mine.end().catch(() => undefined);
      void again(FIRST_PAUSE);
    };
    mine.on('error', lost);
    mine.on('end', lost);
    mine.on('notification', ({ payload }) => hear(payload ?? ''));
    await mine.connect();
    await mine.query(`listen ${pg.escapeIdentifier(channel)}`);
    hears = true;
    timer = setInterval(() => void mine.query('select 1').catch(lost), SIGN_OF_LIFE).unref();
  };

  const again = async (pause: number): Promise<void> => {
    await new Promise((r) => setTimeout(r, pause * (0.75 + Math.random() / 2)).unref());
    if (stopped) return;
    try {
      await connect();
      missed();
    } catch {
      void again(Math.min(pause * 2, LONGEST_PAUSE));
    }
  };

  await connect();
  return {
    inStep: false,
    get hears() {
      return hears;
    },
    stop: async () => {
      stopped = true;
      hears = false;
      if (timer) clearInterval(timer);
      await client?.end().catch(() => undefined);
    },
  };
}
