import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { Problem } from '@calm-keel/core/quantity';
import type { PanelArray } from '@calm-keel/core/system';
import { draftFor, withTyped } from '../ui/draft';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** What has to be known of an array before anything can be worked out, in the order of a label. */
const needed = [
  { key: 'watts', label: 'Power', unit: 'W', step: 5, min: 1, max: 2000 },
  { key: 'vocV', label: 'Open circuit', unit: 'V', step: 0.1, min: 1, max: 500 },
  { key: 'vmpV', label: 'Working volts', unit: 'V', step: 0.1, min: 1, max: 500 },
  { key: 'iscA', label: 'Short circuit', unit: 'A', step: 0.1, min: 0.05, max: 100 },
  { key: 'impA', label: 'Working amps', unit: 'A', step: 0.1, min: 0.05, max: 100 },
  { key: 'bypassDiodes', label: 'Bypass diodes', unit: '', step: 1, min: 0, max: 12 },
  { key: 'inSeries', label: 'In series', unit: '', step: 1, min: 1, max: 40 },
  { key: 'inParallel', label: 'Strings side by side', unit: '', step: 1, min: 1, max: 40 },
  { key: 'tilt', label: 'Tilt', unit: '°', step: 5, min: 0, max: 90 },
  { key: 'azimuth', label: 'Looks to, from north', unit: '°', step: 10, min: 0, max: 360 },
] as const;
type Needed = (typeof needed)[number]['key'];
/** Those that are the roof’s, not the panel’s label. */
const ofRoof = ['inSeries', 'inParallel', 'tilt', 'azimuth'] as const;
const isRoofs = (key: Needed): key is (typeof ofRoof)[number] => (ofRoof as readonly string[]).includes(key);
/** Shade is asked once the array is there: nobody has spoken of any. */
const unshaded = { shaded: 0, shadeLight: 0.1 };

/** A change of an array: what of it, and the array with it. */
export interface ArrayEdit {
  readonly field: string;
  readonly array: PanelArray;
}

/** An array by the label of its panels: typed where there is none yet, changed field by field where there is one. */
@Component({
  selector: 'ck-array-fields',
  imports: [NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './array-fields.html',
  styleUrl: './array-fields.scss',
})
export class ArrayFields {
  readonly array = input.required<PanelArray | null>();
  /** Whose it is: what is typed of another is another draft. */
  readonly owner = input.required<string>();
  /** Holds an array, and says what is wrong with it where it is not held. */
  readonly hold = input.required<(edit: ArrayEdit) => readonly Problem[]>();
  private readonly refused = signal<{ field: string; problems: readonly Problem[] } | null>(null);

  protected problemAt(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? `Not like this: ${(refused.problems[0]?.text ?? '').replace(/^[^:]*: /, '')}` : null;
  }

  private put(field: string, change: (array: PanelArray) => PanelArray): void {
    const array = this.array();
    const problems = array ? this.hold()({ field, array: change(array) }) : [];
    this.refused.set(problems.length > 0 ? { field, problems } : null);
  }

  /** An array being typed: it is one when everything is there. */
  protected readonly draft = draftFor<Partial<Record<Needed, number>>>(() => this.owner());
  protected readonly needed = needed;
  protected readonly missing = computed(() => needed.filter(({ key }) => this.draft()?.[key] === undefined).length);

  /** What stands in a field of the label: of the array, or of the one being typed. */
  protected typed(key: Needed): number | undefined {
    const array = this.array();
    if (!array) return this.draft()?.[key];
    return isRoofs(key) ? array[key] : array.panel[key];
  }

  protected type(key: Needed, value: number | undefined): void {
    if (this.array()) {
      if (isRoofs(key)) this.edit(key, value);
      else this.editPanel(key, value);
      return;
    }
    this.refused.set(null);
    this.draft.update((draft) => withTyped(draft, key, value));
  }

  protected save(): void {
    const { inSeries, inParallel, tilt, azimuth, ...panel } = this.draft() ?? {};
    // The schema says what is still missing, should it come to that.
    const array = { panel: { name: '', ...panel }, inSeries, inParallel, tilt, azimuth, ...unshaded } as PanelArray;
    const problems = this.hold()({ field: 'all', array });
    const field = (problems[0]?.place ?? '').split(' › ').at(-1) ?? '';
    this.refused.set(problems.length > 0 ? { field, problems } : null);
    if (problems.length === 0) this.draft.set(null);
  }

  protected edit(field: Exclude<keyof PanelArray, 'panel'>, value: number | undefined): void {
    this.put(field, (array) => {
      const { [field]: _before, ...others } = array;
      return (value === undefined ? others : { ...others, [field]: value }) as PanelArray;
    });
  }

  protected editPanel(field: keyof PanelArray['panel'], value: number | string | undefined): void {
    this.put(field, (array) => {
      const { [field]: _before, ...others } = array.panel;
      return { ...array, panel: (value === undefined ? others : { ...others, [field]: value }) as PanelArray['panel'] };
    });
  }
}
