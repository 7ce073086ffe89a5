import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { settingWays, type SettingWay } from '@calm-keel/core/card';
import type { Survey } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { TextField } from '../ui/text-field';

/** Ways that have keys worth a name. */
const withKeys: readonly SettingWay[] = ['list', 'menus', 'contact', 'numbers'];

/** How a charger is set, and the keys that do it. */
@Component({
  selector: 'ck-survey-way',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1 tabindex="-1" data-first>How is it set?</h1>
    <div class="big two">
      @for (way of ways; track way) {
        <button type="button" [attr.aria-pressed]="store.survey()?.way === way" (click)="choose(way)">
          {{ words[way].name }}<small>{{ words[way].how }}</small>
        </button>
      }
    </div>
    @if (keyed()) {
      <h2>Its keys, as they are marked</h2>
      <div class="fields">
        <ck-text-field label="Raises a value" [value]="store.survey()?.raise ?? ''" [max]="30" (changed)="key('raise', $event)" />
        <ck-text-field label="Lowers a value" [value]="store.survey()?.lower ?? ''" [max]="30" (changed)="key('lower', $event)" />
        <ck-text-field label="Saves it" [value]="store.survey()?.keep ?? ''" [max]="40" (changed)="key('keep', $event)" />
        <label class="tick"><input type="checkbox" [checked]="store.survey()?.runsFaster === true" (change)="faster()" /> Runs faster when held</label>
      </div>
      <p class="why">The run sheet then names the keys. Leave empty what you do not know.</p>
    }
    <div class="answers">
      <button type="button" class="ghost" (click)="skip()">Not known</button>
      <button type="button" class="press" [disabled]="!store.survey()?.way" (click)="done.emit()">Next: its settings</button>
    </div>
  `,
  styleUrl: './part.scss',
  styles: `
    .tick {
      min-height: 44px;
    }
  `,
})
export class SurveyWay {
  protected readonly store = inject(SurveyStore);
  readonly done = output();
  protected readonly ways = settingWays;
  protected readonly words = surveyEnglish.ways;
  protected readonly keyed = computed(() => {
    const way = this.store.survey()?.way;
    return way !== undefined && withKeys.includes(way);
  });

  protected choose(way: SettingWay): void {
    this.store.edit('Choose how it is set', (survey) => ({ ...survey, way }));
  }

  protected key(which: 'raise' | 'lower' | 'keep', text: string): void {
    this.store.edit('Name a key', ({ [which]: _before, ...survey }): Survey => (text === '' ? survey : { ...survey, [which]: text }), which);
  }

  protected faster(): void {
    this.store.edit('Change how keys run', (survey) => ({ ...survey, runsFaster: survey.runsFaster !== true }));
  }

  protected skip(): void {
    this.store.edit('How it is set is not known', ({ way: _before, ...survey }): Survey => survey);
    this.done.emit();
  }
}
