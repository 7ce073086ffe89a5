import { randomBytes, randomInt, timingSafeEqual } from 'node:crypto';
import type { NextFunction, Request, RequestHandler, Response } from 'express';

/** Wrong codes after which none is taken before the next is shown: ten of a million in ten minutes, from all addresses together. */
const mostTries = 10;
/** A code is good for so long, ms. */
const codeMs = 10 * 60_000;
/** A pairing is good for so long, ms: a day's work. */
const pairedMs = 24 * 3600_000;
const cookieName = 'keel-pair';

/** Which browsers may reach more than the bare application. */
export interface Pairing {
  /** The code to type on the other device; another one after each use. */
  readonly code: () => string;
  /** Tries a code; a token when it fits. `closed` when too many were wrong; then the right one is not taken either until a new one is shown. */
  readonly pair: (code: string) => { readonly token: string } | 'wrong' | 'closed';
  readonly isPaired: (token: string | undefined) => boolean;
}

/** Asked by this machine's own browser, by a name of its own: a strange name that was made to lead here is none. */
const loopback = (request: Request): boolean =>
  ['127.0.0.1', '::1', '::ffff:127.0.0.1'].includes(request.socket.remoteAddress ?? '') && ['127.0.0.1', 'localhost', '[::1]'].includes(request.hostname);

const same = (a: string, b: string): boolean => a.length === b.length && timingSafeEqual(Buffer.from(a), Buffer.from(b));

/**
 * One-time codes and the browsers that gave one.
 *
 * @param now ms since 1970
 * @param announce told of every new code, to show it
 */
export function makePairing(announce: (code: string) => void, now: () => number = Date.now): Pairing {
  const tokens = new Map<string, number>();
  let code = '';
  let made = 0;
  let tries = 0;
  const renew = (): void => {
    code = String(randomInt(0, 1_000_000)).padStart(6, '0');
    made = now();
    tries = 0;
    announce(code);
  };
  const fresh = (): string => {
    if (code === '' || now() - made > codeMs) renew();
    return code;
  };
  return {
    code: fresh,
    pair: (given) => {
      const shown = fresh();
      if (tries >= mostTries) return 'closed';
      if (!same(given.replace(/\D/g, ''), shown)) {
        tries++;
        return 'wrong';
      }
      const token = randomBytes(32).toString('base64url');
      tokens.set(token, now() + pairedMs);
      renew();
      return { token };
    },
    isPaired: (token) => token !== undefined && (tokens.get(token) ?? 0) > now(),
  };
}

/** The token a browser carries. */
function tokenOf(request: Request): string | undefined {
  const cookie = (request.headers.cookie ?? '').split(';').find((part) => part.trim().startsWith(`${cookieName}=`));
  return cookie?.trim().slice(cookieName.length + 1);
}

/** Whether a request comes from this machine itself, or from a paired browser. */
export const mayReach = (pairing: Pairing | null, request: Request): boolean => loopback(request) || (pairing?.isPaired(tokenOf(request)) ?? false);

/** Whether a request comes from this machine itself. */
export const isHere = loopback;

/** Lets only this machine's own browser and paired ones through. */
export const pairedOnly =
  (pairing: Pairing | null): RequestHandler =>
  (request: Request, response: Response, next: NextFunction) => {
    if (mayReach(pairing, request)) next();
    else
      response
        .status(403)
        .json({ code: 'not-paired', text: 'This browser is not paired. Open the pairing page and enter the code that the other machine shows.' });
  };

/** Tells the browser to carry its token: over TLS only, out of reach of scripts, to no other site. */
export const giveToken = (response: Response, token: string): void => {
  response.cookie(cookieName, token, { httpOnly: true, secure: true, sameSite: 'strict', maxAge: pairedMs, path: '/' });
};
