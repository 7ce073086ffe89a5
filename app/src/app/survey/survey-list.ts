import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { roleInfo } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { asksOf, surveyParts, unitOf, withItemMoved, type SurveyPart } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { Glyph } from '../ui/glyph';
import { SurveyManual } from './survey-manual';

/** All of a survey at a glance: its parts, and the settings in the order of the device. */
@Component({
  selector: 'ck-survey-list',
  imports: [Glyph, SurveyManual],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.survey(); as s) {
      <h1 tabindex="-1" data-first>All of it</h1>
      @for (part of parts; track part) {
        <button type="button" class="part" [attr.aria-current]="s.at.part === part ? 'step' : null" (click)="go.emit({ part })">{{ words.parts[part] }}</button>
        @if (part === 'walk') {
          <ol>
            @for (line of lines(); track line.id) {
              <li>
                <button type="button" class="item" (click)="go.emit({ part: 'walk', item: line.id })">
                  <b class="n">{{ line.label }}</b><span
                    >{{ line.means }}<small>{{ line.ends }}</small></span
                  ><b class="n shown">{{ line.shown }}</b>
                  @if (line.asks) {
                    <ck-glyph name="attention" [size]="18" />
                  }
                </button>
                <button type="button" class="move" [disabled]="$first" [attr.aria-label]="'Move ' + line.label + ' up'" (click)="move(line.id, -1)">↑</button>
                <button type="button" class="move" [disabled]="$last" [attr.aria-label]="'Move ' + line.label + ' down'" (click)="move(line.id, 1)">↓</button>
              </li>
            }
          </ol>
          <p class="adds">
            <button type="button" class="ghost" (click)="another.emit()">Add a setting at the end</button>
            <button type="button" class="ghost" [attr.aria-expanded]="manual()" (click)="manual.set(!manual())">From a manual’s table</button>
          </p>
          @if (manual()) {
            <ck-survey-manual (taken)="manual.set(false)" />
          }
        }
      }
    }
  `,
  styleUrl: './part.scss',
  styles: `
    .part {
      min-height: 48px;
      text-align: left;
      font-size: 1.125rem;
      font-weight: 640;
      border-top: 1.5px solid var(--ck-ink);
      &[aria-current] {
        color: var(--ck-copper-text);
      }
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 44px 44px;
      border-bottom: 1px solid var(--ck-rule);
    }
    .item {
      display: grid;
      grid-template-columns: minmax(64px, 1.15fr) minmax(0, 1.25fr) auto auto;
      gap: 10px;
      align-items: center;
      min-height: 56px;
      text-align: left;
      line-height: 1.2;
      b {
        overflow-wrap: anywhere;
        white-space: normal;
      }
      small {
        display: block;
        color: var(--ck-ink-2);
      }
    }
    .shown {
      font-size: 1.125rem;
    }
    .move {
      min-height: 56px;
      font-size: 1.125rem;
    }
    .adds {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
    .ghost {
      min-height: 44px;
    }
  `,
})
export class SurveyList {
  protected readonly store = inject(SurveyStore);
  readonly go = output<{ readonly part: SurveyPart; readonly item?: string }>();
  readonly another = output();
  protected readonly parts = surveyParts;
  protected readonly words = surveyEnglish;

  protected readonly lines = computed(() => {
    const survey = this.store.survey();
    return (survey?.items ?? []).map((item) => {
      const unit = unitOf(item);
      return {
        id: item.id,
        label: item.label || 'No name yet',
        shown: item.shown,
        means: item.role === undefined ? 'Not said yet' : item.role === null ? 'Don’t know' : capital(roleInfo[item.role].name),
        ends: unit === 'choice' ? item.options.join(', ') : this.words.ends(item, unit === undefined ? '' : this.words.unit(unit)),
        asks: survey !== null && asksOf(survey, item.id).length > 0,
      };
    });
  });

  protected readonly manual = signal(false);

  protected move(id: string, by: -1 | 1): void {
    this.store.edit('Change the order', (survey) => withItemMoved(survey, id, by));
  }
}
