import { inject, Injectable, signal } from '@angular/core';
import { whatItMakes, type SheetStep } from '@calm-keel/core/runsheet';
import type { Plan } from '@calm-keel/core/settings';
import type { Charger } from '@calm-keel/core/system';
import { DeviceLink, LinkProblem, type Outcome, type WireStep } from './device-link';
import { RunWork } from './run-work';

/** Why something over the wire failed, in words. */
export const whyItFailed = (error: unknown): string =>
  error instanceof LinkProblem ? error.message : 'The link failed in a way nobody foresaw. Go on by hand, and reload the page.';

/** Reading and writing one device of a job over the wire, and what comes of it for the run sheet. Only a value that was read back answers its step. */
@Injectable()
export class WireWork {
  private readonly link = inject(DeviceLink);
  private readonly work = inject(RunWork);
  /** What is being done, in words; null while nothing is. */
  readonly busy = signal<string | null>(null);
  readonly problem = signal<string | null>(null);
  /** What a device said yes to and nobody has seen. */
  readonly acknowledged = signal<string | null>(null);

  /** Runs something that may fail, with words meanwhile. */
  private async during(words: string, task: () => Promise<void>): Promise<void> {
    this.busy.set(words);
    this.acknowledged.set(null);
    this.problem.set(null);
    try {
      await task();
    } catch (error) {
      this.problem.set(whyItFailed(error));
    } finally {
      this.busy.set(null);
    }
  }

  /** Reads what is on a device into the record, as found. @returns whether anything was read */
  async readIn(device: Charger): Promise<boolean> {
    const name = device.link;
    if (name === undefined) return false;
    let read = false;
    await this.during('Reading what it is set to.', async () => {
      const { values } = await this.link.read(name);
      this.work.noteFound(device.id, values);
      read = true;
    });
    return read;
  }

  /** Answers a step that only looks with what the device tells; what has no register is not proved by those that have one. */
  readStep(name: string, step: SheetStep): Promise<void> {
    return this.during('Reading over the wire.', async () => {
      const { values, firmware } = await this.link.read(name);
      if (step.kind === 'identify') {
        if (firmware !== null) this.work.answer(step, { state: 'done', reading: firmware }, 'wire');
        return;
      }
      const roles = new Set((step.looks ?? []).map((l) => l.role));
      const silent = (step.looks ?? []).filter((l) => l.want !== null && values[l.role] === undefined).map((l) => l.label);
      if (silent.length > 0) throw new LinkProblem(`No register tells ${silent.join(', ')}: look at its display, and answer this step by hand.`);
      this.work.answer(step, { state: 'done', values: Object.fromEntries(Object.entries(values).filter(([role]) => roles.has(role as never))) }, 'wire');
    });
  }

  /** Reads a device whose state is unknown, twice, and says what became of the last write, that of this step. */
  settle(name: string, step: SheetStep | null): Promise<void> {
    return this.during('Reading what it is set to.', async () => {
      const first = (await this.link.read(name)).values;
      const second = (await this.link.read(name)).values;
      if (!step?.value) {
        this.acknowledged.set(
          step?.kind === 'commit'
            ? 'The device answers. Whether it saved, no register tells: save again, and let the power cut show it.'
            : 'The device answers. Compare its values before you go on.',
        );
        return;
      }
      const { role, to, readBack } = step.value;
      if (first[role] === to && second[role] === to) {
        this.work.answer(step, { state: 'done', reading: to }, 'wire');
        this.acknowledged.set(`It was taken: ${step.title} reads ${readBack}.`);
        return;
      }
      const reads = first[role] === second[role] ? String(second[role] ?? 'nothing') : 'now this and now that';
      this.work.trouble(step, `${step.title}: the answer to the write was lost; read again it reads ${reads}.`);
      this.problem.set(`It was not taken: ${step.title} reads ${reads} instead of ${readBack}. It can be written again.`);
    });
  }

  /** Writes steps in their order; the first that was not read back as it should ends it. */
  write(plan: Plan, name: string, steps: readonly SheetStep[]): Promise<void> {
    const wire: WireStep[] = steps.flatMap((s): WireStep[] =>
      s.kind === 'commit' ? [{ step: s.id, commit: true }] : s.value ? [{ step: s.id, role: s.value.role, value: s.value.to }] : [],
    );
    if (wire.length === 0) return Promise.resolve();
    return this.during(wire.length === 1 ? 'Writing, and reading back.' : `Writing 1 of ${wire.length}, and reading back.`, async () => {
      let done = 0;
      await this.link.write(name, wire, (sent, outcome) => {
        const step = steps.find((s) => s.id === sent.step);
        if (!step) return false;
        done++;
        this.busy.set(`Writing ${Math.min(done + 1, wire.length)} of ${wire.length}, and reading back.`);
        return this.take(plan, step, outcome);
      });
    });
  }

  /** Keeps what came of a write. Only a value that was read back answers its step. */
  private take(plan: Plan, step: SheetStep, outcome: Outcome): boolean {
    if (outcome.kind === 'readBack' && step.value) {
      this.work.answer(step, { state: 'done', reading: step.value.to }, 'wire');
      return true;
    }
    if (outcome.kind === 'acknowledged') {
      this.work.answer(step, { state: 'done', reading: 'acknowledged, not seen' }, 'wire');
      this.acknowledged.set(outcome.says);
      return true;
    }
    const shown = this.shown(plan, step, outcome);
    this.work.trouble(step, `${step.title}: ${shown}`);
    this.work.show(step.id);
    this.problem.set(`${step.title}: ${shown} Writing has stopped here.`);
    return false;
  }

  /** What came of it in words, with what a value that differs would do. */
  private shown(plan: Plan, step: SheetStep, outcome: Outcome): string {
    if (outcome.kind !== 'differs' || outcome.value == null || !step.value || !step.device) return outcome.says;
    const would = typeof outcome.value === 'number' ? whatItMakes(plan, step.device, step.value.role, outcome.value) : '';
    return `${outcome.says}${would} The device changed it on its way in, or never took it: look at its display before you write again.`;
  }
}
