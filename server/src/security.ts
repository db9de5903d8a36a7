import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { isLoopback } from './settings.js';
import { ApiError } from './work/faults.js';

/** A strict policy: everything from this origin, nothing inline but style attributes, no framing. */
export const policy = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'none'"],
      scriptSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      fontSrc: ["'self'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      connectSrc: ["'self'"],
      workerSrc: ["'self'"],
      manifestSrc: ["'self'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  strictTransportSecurity: false,
});

const LOOPBACK = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Refuses requests for a host this server does not go by, and requests another site's page sends: a page
 * elsewhere must not reach a workroom on this machine by a name of its own. The loopback's names are good for
 * this machine alone: from elsewhere only those are that the server was told to go by.
 */
export function knownHosts(names: readonly string[]): RequestHandler {
  const hostOf = (authority: string) => authority.replace(/:\d+$/, '').toLowerCase();
  return (req, _res, next) => {
    const host = hostOf(req.headers.host ?? '');
    const isOwn = LOOPBACK.includes(host) && isLoopback(req.socket.remoteAddress ?? '');
    if (!isOwn && !names.includes(host))
      return next(new ApiError(421, 'This server does not answer for that host.'));
    // A page of another port is another site's, and so is a request that its page sends without an origin.
    const { origin, 'sec-fetch-site': site } = req.headers;
    const own = !origin || (URL.canParse(origin) && new URL(origin).host === req.headers.host?.toLowerCase());
    const foreign = req.path.startsWith('/api/') && (site === 'cross-site' || site === 'same-site');
    if (!own || foreign) return next(new ApiError(403, 'Requests from other sites are refused.'));
    next();
  };
}

/** Nothing of the machine is wanted by this page: no camera, no place, no sensors. */
export const permissions: RequestHandler = (_req, res, next) => {
  res.set('Permissions-Policy', 'camera=(), geolocation=(), microphone=(), payment=(), usb=()');
  next();
};
