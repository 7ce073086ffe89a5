import express, { Router } from 'express';
import { rateLimit } from 'express-rate-limit';
import * as z from 'zod';
import { isZip } from '@calm-keel/core/job';
import { identifier } from '@calm-keel/core/sheet';
import { giveToken, isHere, mayReach, pairedOnly, type Pairing } from './pairing';

/** Jobs lie here in memory only, and go when the server goes. */
const mostBytesTogether = 400_000_000;
const mostBytesEach = 200_000_000;

interface Offer {
  readonly id: string;
  readonly name: string;
  /** Where it came from. */
  readonly from: 'here' | 'paired';
  /** ISO time. */
  readonly at: string;
  readonly bytes: Buffer;
}

const codeSchema = z.object({ code: z.string().max(20) });
const putSchema = z.object({ name: z.string().min(1).max(80) });

/** Whether there is anything to pair with, and pairing itself. Open to every browser; guessing is slowed down. */
export function pairRoutes(pairing: Pairing | null): Router {
  const router = Router();
  router.get('/', (request, response) => {
    response.set('Cache-Control', 'no-store').json({ lan: pairing !== null, paired: mayReach(pairing, request), here: isHere(request) });
  });
  router.post(
    '/',
    // One count over all addresses: a guesser with many of them is no quicker.
    rateLimit({
      windowMs: 60_000,
      limit: 30,
      standardHeaders: false,
      legacyHeaders: false,
      keyGenerator: () => 'all',
      message: { code: 'too-fast', text: 'Too many codes were tried. Wait a minute.' },
    }),
    express.json({ limit: '1kb' }),
    (request, response) => {
      const read = codeSchema.safeParse(request.body);
      const tried = read.success && pairing ? pairing.pair(read.data.code) : 'wrong';
      if (tried === 'wrong') {
        response.status(403).json({ code: 'wrong-code', text: 'This is not the code that is shown now. Each code is good once, and for ten minutes.' });
        return;
      }
      if (tried === 'closed') {
        response.status(429).json({
          code: 'closed',
          text: 'Too many wrong codes were tried. Wait until the other machine shows a new one, within ten minutes, or start it again.',
        });
        return;
      }
      giveToken(response, tried.token);
      response.json({ paired: true });
    },
  );
  return router;
}

/**
 * Where two devices hand each other a job: one puts a bundle here, the other takes it and merges it with its own. Nothing is opened on the way; what it
 * holds is judged by whoever takes it.
 *
 * @param room bytes that may wait together
 */
export function exchangeRoutes(pairing: Pairing | null, room = mostBytesTogether): Router {
  const router = Router();
  const offers = new Map<string, Offer>();
  router.use(pairedOnly(pairing));
  router.use(rateLimit({ windowMs: 60_000, limit: 600, standardHeaders: false, legacyHeaders: false }));
  router.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  router.get('/', (_request, response) => {
    response.json({ offers: [...offers.values()].map(({ bytes, ...offer }) => ({ ...offer, size: bytes.length })) });
  });
  router.put('/:id', express.raw({ type: 'application/zip', limit: mostBytesEach }), (request, response) => {
    const id = identifier.safeParse(request.params['id']);
    const named = putSchema.safeParse({ name: request.query['name'] });
    const bytes: unknown = request.body;
    if (!id.success || !named.success || !Buffer.isBuffer(bytes) || !isZip(bytes)) {
      response.status(400).json({ code: 'bad-offer', text: 'This is no job that this program packed. Nothing was handed over.' });
      return;
    }
    const from = isHere(request) ? ('here' as const) : ('paired' as const);
    const key = `${id.data}/${from}`;
    const others = [...offers].reduce((sum, [k, o]) => (k === key ? sum : sum + o.bytes.length), 0);
    if (others + bytes.length > room) {
      response
        .status(413)
        .json({ code: 'exchange-full', text: 'There is no room for this job beside those that wait here. Take them first, or carry this one over as a file.' });
      return;
    }
    offers.set(key, { id: id.data, name: named.data.name, from, at: new Date().toISOString(), bytes });
    response.json({ kept: true });
  });
  router.get('/:id/:from', (request, response) => {
    const offer = offers.get(`${request.params.id}/${request.params.from}`);
    if (offer) response.type('application/zip').send(offer.bytes);
    else response.status(404).json({ code: 'no-offer', text: 'This job is no longer waiting here. Have it handed over again.' });
  });
  return router;
}
