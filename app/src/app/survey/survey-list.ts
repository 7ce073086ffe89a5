import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { roleInfo } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { asksOf, freeItem, readManual, surveyParts, unitOf, withItem, withItemMoved, type Survey, type SurveyPart } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { Glyph } from '../ui/glyph';

/** All of a survey at a glance: its parts, and the settings in the order of the device. */
@Component({
  selector: 'ck-survey-list',
  imports: [Glyph],
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
            <button type="button" class="ghost" [attr.aria-expanded]="pasting()" (click)="pasting.set(!pasting())">Paste a manual’s table</button>
          </p>
          @if (pasting()) {
            <label class="lbl" for="manual-table">The table of settings, as copied from the manual: one setting a line</label>
            <textarea #table id="manual-table" class="plain" rows="6" spellcheck="false" [value]="pasted()" (input)="pasted.set(table.value)"></textarea>
            @if (pasted().trim() !== '') {
              <p class="why" role="status">{{ understood() }}</p>
              @if (fresh().length > 0) {
                <p>
                  <button type="button" class="ghost" (click)="take()">Add {{ fresh().length === 1 ? 'this one' : 'these ' + fresh().length }}</button>
                </p>
              }
            }
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
      grid-template-columns: 1fr 44px 44px;
      border-bottom: 1px solid var(--ck-rule);
    }
    .item {
      display: grid;
      grid-template-columns: minmax(64px, 0.7fr) 1.4fr auto auto;
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
    textarea {
      width: 100%;
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

  // A manual's table.
  protected readonly pasting = signal(false);
  protected readonly pasted = signal('');
  private readonly manual = computed(() => {
    const survey = this.store.survey();
    return survey && readManual(this.pasted(), { kind: survey.card.kind, systemVolts: survey.card.ratings.systemVolts, terms: this.words.roleTerms });
  });
  /** What the list does not have yet, by name. */
  protected readonly fresh = computed(() => {
    const there = new Set((this.store.survey()?.items ?? []).map((i) => i.label.trim().toLowerCase()));
    return (this.manual()?.items ?? []).filter((i) => !there.has(i.label.trim().toLowerCase()));
  });
  protected readonly understood = computed(() => {
    const [all, fresh, out] = [this.manual()?.items ?? [], this.fresh(), this.manual()?.leftOut ?? []];
    const meant = fresh.filter((i) => i.role !== undefined).length;
    return [
      `${fresh.length} new ${fresh.length === 1 ? 'setting' : 'settings'}, ${meant} with a meaning. Each waits for your yes`,
      ...(all.length > fresh.length ? [`${all.length - fresh.length} are in the list already`] : []),
      ...(out.length > 0
        ? [
            `Left out: line ${out
              .map((l) => l.line)
              .slice(0, 8)
              .join(', ')}${out.length > 8 ? ' and others' : ''}`,
          ]
        : []),
      '',
    ]
      .join('. ')
      .trim();
  });

  protected take(): void {
    const fresh = this.fresh();
    this.store.edit('Take a manual’s table', (survey) =>
      fresh.reduce<Survey>((now, item) => withItem(now, { ...item, id: freeItem(now) }), {
        ...survey,
        from: 'document' as const,
        // What was begun and left empty goes.
        items: survey.items.filter((i) => i.label.trim() !== '' || i.shown.trim() !== ''),
      }),
    );
    this.pasted.set('');
    this.pasting.set(false);
  }

  protected move(id: string, by: -1 | 1): void {
    this.store.edit('Change the order', (survey) => withItemMoved(survey, id, by));
  }
}
