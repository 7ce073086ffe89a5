import { inject, Injectable, signal } from '@angular/core';
import * as z from 'zod';
import type { Job } from '@calm-keel/core/job';
import { JobFiles, type Brought } from './job-files';

const pairSchema = z.object({ lan: z.boolean(), paired: z.boolean(), here: z.boolean() });
const offerSchema = z.object({ id: z.string(), name: z.string(), from: z.enum(['here', 'paired']), at: z.string(), size: z.number() });
const offersSchema = z.object({ offers: z.array(offerSchema) });
const problemSchema = z.object({ text: z.string() });

/** A job that waits on the machine between the two. */
export type Offer = z.infer<typeof offerSchema>;

/** A sentence of the server's, or of what stands between. */
export class ExchangeProblem extends Error {}

async function ask(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(path, init);
  } catch {
    throw new ExchangeProblem('The other machine does not answer. Look whether it still runs and both are on one network; or carry the job over as a file.');
  }
  if (response.ok) return response;
  const told = problemSchema.safeParse(await response.json().catch(() => null));
  throw new ExchangeProblem(told.success ? told.data.text : `The other machine answers ${response.status}. Try again.`);
}

/** Handing jobs from one device to another through the machine that serves this page, where it was started for that. */
@Injectable({ providedIn: 'root' })
export class Exchange {
  private readonly files = inject(JobFiles);
  /** Whether this browser may exchange; null until the server has been asked, or without one. */
  readonly pairing = signal<z.infer<typeof pairSchema> | null>(null);
  readonly offers = signal<readonly Offer[]>([]);

  /** Asks how things stand. Without a server nothing is missing. */
  async look(): Promise<void> {
    try {
      const state = pairSchema.parse(await (await ask('api/pair')).json());
      this.pairing.set(state);
      this.offers.set(
        state.lan && state.paired ? offersSchema.parse(await (await ask('api/exchange')).json()).offers.filter((o) => (o.from === 'here') !== state.here) : [],
      );
    } catch {
      this.pairing.set(null);
      this.offers.set([]);
    }
  }

  /** Pairs this browser by the code that the other machine shows. */
  async pair(code: string): Promise<void> {
    await ask('api/pair', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ code }) });
    await this.look();
  }

  /** Hands a job out for the other device to take. */
  async give(job: Job): Promise<void> {
    const bundle = await this.files.handOut(job);
    await ask(`api/exchange/${job.id}?name=${encodeURIComponent(job.name)}`, { method: 'PUT', headers: { 'content-type': 'application/zip' }, body: bundle });
  }

  /** Takes a job that waits; one that is here already is to be merged. */
  async take(offer: Offer): Promise<Brought> {
    const response = await ask(`api/exchange/${offer.id}/${offer.from}`);
    return this.files.arrive(new Uint8Array(await response.arrayBuffer()), offer.from === 'here' ? 'the other machine' : 'the paired device');
  }
}
