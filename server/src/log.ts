import { randomUUID } from 'node:crypto';
import type { RequestHandler } from 'express';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';

/** An id somebody before this server gave the request, if it is a plain one. */
const given = (id: unknown): string | null =>
  typeof id === 'string' && /^[\w.-]{1,64}$/.test(id) ? id : null;

/**
 * Gives every request an id, which its answer bears as `X-Request-Id` and every line of the log about it. What was
 * asked for is logged from level "info" on; of headers and bodies, nothing.
 */
export const logged = (log: Logger): RequestHandler =>
  pinoHttp({
    logger: log,
    genReqId: (req, res) => {
      const id = given(req.headers['x-request-id']) ?? randomUUID();
      res.setHeader('X-Request-Id', id);
      return id;
    },
    // What went wrong is logged where it is answered, with why.
    autoLogging: log.isLevelEnabled('info'),
    customLogLevel: () => 'info',
    serializers: {
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({ id, method, url }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  });
