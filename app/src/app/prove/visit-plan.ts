import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, output } from '@angular/core';
import type { Drive } from '@calm-keel/core/card';
import { drivesOnSite, planVisit, visitConditionsSchema, visitParts, type TestCode, type VisitConditions } from '@calm-keel/core/fieldtest';
import { mostNote, noteVisit, parseJson } from '@calm-keel/core/job';
import { formatDuration } from '@calm-keel/core/quantity';
import { sayFor, visitEnglish } from '@calm-keel/core/words';
import { requirementKey } from '@calm-keel/core/requirements';
import * as z from 'zod';
import { JobStore, today } from '../data/job-store';
import { heldText, holdText } from '../data/small-store';
import { Units } from '../data/units';
import { WhoIsThere } from '../data/who-is-there';
import { dayWords } from '../ui/day-words';
import { NumberField } from '../ui/number-field';

/** What was said of a visit, held on this device for the day it was said on. */
const keyOf = (job: string): string => `calm-keel.visit.${job}`;
const heldSchema = z.object({ day: z.string(), said: visitConditionsSchema });

function heldConditions(job: string): VisitConditions {
  const parsed = parseJson(heldText(keyOf(job)) ?? 'null', 'visit');
  const held = heldSchema.safeParse(parsed.ok ? parsed.value : null);
  return held.success && held.data.day === today() ? held.data.said : {};
}

/** One choice of an answer. */
interface Choice {
  readonly words: string;
  readonly on: boolean;
  readonly next: VisitConditions;
}

/** What to do on this visit: what sun, engine, bank and time allow, in which order, with which tools; and what is left for another day. */
@Component({
  selector: 'ck-visit-plan',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './visit-plan.html',
  styleUrl: './visit-plan.scss',
})
export class VisitPlanPanel {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  protected readonly there = inject(WhoIsThere);
  protected readonly words = visitEnglish;
  readonly begin = output<{ code: TestCode; device: string }>();

  private readonly id = computed(() => this.store.job()?.id ?? '');
  protected readonly said = linkedSignal<string, VisitConditions>({ source: () => this.id(), computation: heldConditions });
  protected readonly open = computed(
    () => new Set(this.store.covered().flatMap((c) => (c.verdict === 'pass' || c.verdict === 'stated' ? [] : [requirementKey(c)]))),
  );
  private readonly plan = computed(() => {
    const plan = this.store.settled();
    return plan && planVisit(plan, this.open(), this.said());
  });

  /** Questions of this job, each with its answers; pressing the chosen one takes it back. */
  protected readonly questions = computed(() => {
    const plan = this.store.settled();
    const said = this.said();
    if (!plan) return [];
    const { sun, bank, there } = visitEnglish;
    const choice = <K extends keyof VisitConditions>(key: K, value: VisitConditions[K], words: string): Choice => {
      const { [key]: now, ...rest } = said;
      return { words, on: now === value, next: now === value ? rest : { ...said, [key]: value } };
    };
    const ofDrive = (drive: Drive): readonly Choice[] =>
      drive === 'sun'
        ? (['full', 'some', 'none'] as const).map((v) => choice('sun', v, sun[v]))
        : [choice(drive, true, there[drive].yes), choice(drive, false, there[drive].no)];
    return [
      ...drivesOnSite(plan).map((drive) => ({ question: drive, choices: ofDrive(drive) })),
      { question: 'bank' as const, choices: (['low', 'between', 'full'] as const).map((v) => choice('bank', v, bank[v])) },
    ];
  });

  protected readonly parts = computed(() => {
    const plan = this.plan();
    return visitParts
      .map((part) => ({
        name: visitEnglish.parts[part],
        tests: (plan?.tests ?? [])
          .filter((t) => t.part === part)
          .map(({ test, subject, minutes, isolated }) => ({
            code: test.code,
            name: test.name,
            device: subject.device.id,
            of: subject.device.name,
            minutes,
            isolated,
          })),
      }))
      .filter((p) => p.tests.length > 0);
  });
  protected readonly head = computed(() => {
    const plan = this.plan();
    if (!plan) return '';
    const { tests, minutes } = plan;
    if (tests.length === 0) return this.open().size === 0 ? 'Nothing is open.' : 'No test can be done yet with what is said.';
    return `${tests.length === 1 ? 'One test' : `${tests.length} tests`}, about ${formatDuration(minutes * 60)} at the devices, without waiting for sun or bank.`;
  });
  protected readonly tools = computed(() => (this.plan()?.tools ?? []).map((t) => visitEnglish.tools[t]).join(', '));
  protected readonly asks = computed(() => this.plan()?.asks.map((a) => visitEnglish.ask(a.question, a.tests)) ?? []);
  /** Tests that wait for the same reason are one line with their devices. */
  protected readonly later = computed(() => {
    const job = this.store.job();
    const plan = this.plan();
    if (!job || !plan) return [];
    const say = sayFor(job, this.units.scale());
    const lines = new Map<string, { name: string; of: string[]; why: string }>();
    for (const { test, subject, reasons } of plan.later) {
      const why = reasons.map((r) => visitEnglish.reason(r, say)).join(', ');
      const line = lines.get(`${test.code} ${why}`) ?? { name: test.name, of: [], why };
      line.of.push(subject.device.name);
      lines.set(`${test.code} ${why}`, line);
    }
    return [...lines.values()].map((l) => ({ ...l, of: l.of.join(', ') }));
  });
  protected readonly day = computed(() => dayWords(today()));

  /** The visit that is not closed yet, if there is one: what waits can be noted there. */
  protected readonly visit = computed(() => this.store.job()?.visits.findLast((v) => v.closed === null) ?? null);
  private readonly waiting = computed(() => ['For another day:', ...this.later().map((l) => `${l.name}, ${l.of}: ${l.why}`)].join('\n'));
  protected readonly noted = computed(() => this.visit()?.note.includes(this.waiting()) ?? false);
  private readonly longer = computed(() => `${this.visit()?.note ?? ''}\n${this.waiting()}`.trim());
  protected readonly full = computed(() => this.longer().length > mostNote);
  protected note(): void {
    const visit = this.visit();
    const note = this.longer();
    if (visit) this.store.edit('Note what waits for another day', (job) => noteVisit(job, visit.id, { note }));
  }

  protected answer(next: VisitConditions): void {
    this.said.set(next);
    // A device that holds nothing asks again after a reload.
    holdText(keyOf(this.id()), JSON.stringify({ day: today(), said: next }));
  }
  protected put(key: 'batteryC' | 'hours', value: number | undefined): void {
    const { [key]: _before, ...rest } = this.said();
    this.answer(value === undefined ? rest : { ...rest, [key]: value });
  }
}
