import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { handsAt } from '@calm-keel/core/practice';
import { practiceEnglish } from '@calm-keel/core/words';
import { Announcer } from '../ui/announcer';
import { ChoiceField } from '../ui/choice-field';
import { Tabs } from '../ui/tabs';
import { BenchSession } from './bench-session';

type Tool = 'meter' | 'clamp' | 'look' | 'hands';

/** The instruments: a meter with two probes, a clamp, a thermometer, a torch, ice, and the hands. */
@Component({
  selector: 'ck-bench-tools',
  imports: [ChoiceField, Tabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-tools.html',
  styles: `
    :host {
      display: block;
    }
    .kit {
      border: 1.5px solid var(--ck-ink-3);
      padding: 12px 14px 14px;
      margin-top: 8px;
    }
    .v {
      font: 620 2.25rem/1.1 var(--ck-font-num);
      min-height: 1.1em;
      display: block;
      margin-bottom: 8px;
    }
    .kit ck-choice-field {
      display: block;
      margin-bottom: 8px;
    }
    .tools {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .works {
      display: grid;
      gap: 8px;
    }
    .works .ghost {
      justify-content: flex-start;
      text-align: left;
    }
    small {
      display: block;
      color: var(--ck-attention);
      font-size: 0.8125rem;
      margin-top: 2px;
    }
    .ghost {
      min-height: 40px;
    }
    @media (max-width: 767px) {
      .ghost {
        min-height: 48px;
      }
    }
  `,
})
export class BenchTools {
  readonly device = input.required<string>();
  protected readonly session = inject(BenchSession);
  private readonly voice = inject(Announcer);
  protected readonly tool = signal<Tool>('meter');
  protected readonly tools: readonly { readonly id: Tool; readonly words: string }[] = [
    { id: 'meter', words: 'Meter' },
    { id: 'clamp', words: 'Clamp' },
    { id: 'look', words: 'Look' },
    { id: 'hands', words: 'Hands' },
  ];
  protected readonly red = signal('bank+');
  protected readonly black = signal('bank-');
  /** Where a probe can be put: the bank, the bus, each charger’s battery side and its input. */
  protected readonly probes = computed(() => {
    const [bench, say] = [this.session.bench(), this.session.say()];
    if (!bench || !say) return [];
    const places = ['bank', 'bus', ...bench.devices.filter((d) => d.charges).flatMap((d) => [`at:${d.id}`, `in:${d.id}`])];
    return places.flatMap((p) => [`${p}+`, `${p}-`]).map((value) => ({ value, words: practiceEnglish.probe(value, say) }));
  });
  /** The last thing measured with it. */
  protected readonly last = computed(() => {
    const line = this.session
      .now()
      .bench?.done()
      .findLast((d) => /^(meter|drop|input)/.test(d.key));
    const say = this.session.say();
    return line?.number != null && say ? say.volts(line.number) : '––';
  });
  protected readonly lastAmps = computed(() => {
    const line = this.session
      .now()
      .bench?.done()
      .findLast((d) => d.key.startsWith('clamp'));
    const say = this.session.say();
    return line?.number != null && say ? say.amps(line.number) : '––';
  });
  protected readonly here = computed(() => this.session.bench()?.devices.find((d) => d.id === this.device()));
  protected readonly array = computed(() => this.session.bench()?.at.plan.input.system.chargers.find((c) => c.id === this.device())?.array);
  protected readonly sensor = computed(() => this.session.bench()?.at.plan.input.system.chargers.find((c) => c.id === this.device())?.sensor.fitted === true);
  protected readonly hasBms = computed(() => this.session.bench()?.at.plan.input.system.bank.hasBms === true);
  protected readonly relay = computed(() => this.session.bench()?.at.plan.input.system.companions.find((c) => c.id === this.device())?.relay !== undefined);
  protected readonly works = computed(() => {
    const [bench, here] = [this.session.bench(), this.here()];
    if (!bench) return [];
    return handsAt(bench, this.device()).map(({ hand, device }) => ({
      hand,
      device,
      does: practiceEnglish.hands[hand].does(here?.name ?? ''),
      caution: practiceEnglish.hands[hand].caution ?? '',
    }));
  });

  protected measure(): void {
    this.session.act({ do: 'meter', red: this.red(), black: this.black() });
    this.tell();
  }
  protected across(where: string): void {
    this.red.set(`${where}+`);
    this.black.set(`${where}-`);
    this.measure();
  }
  protected clamp(at: string): void {
    this.session.act({ do: 'clamp', at });
    this.tell();
  }
  protected do(action: Parameters<BenchSession['act']>[0]): void {
    this.session.act(action);
    this.tell();
  }
  /** What was just measured or seen, for those who do not see it change. */
  private tell(): void {
    const line = this.session.done()[0];
    if (line) this.voice.say(line.words);
  }
}
