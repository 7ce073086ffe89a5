import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { roleInfo } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { movedBy, unitOf, type SurveyItem } from '@calm-keel/core/survey';
import { SurveyStore } from '../data/survey-store';

/** One change on the device, and the list read again: what else moved is a preset, or a value that follows. */
@Component({
  selector: 'ck-survey-changes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.survey(); as s) {
      <h1 tabindex="-1" data-first>Does one change move others?</h1>
      <p class="how">Change one setting on the device and read the others again. Type only what is different now. Then set it back: the charger acts on it.</p>
      @for (line of noted(); track line.i) {
        <p class="noted">
          <span>{{ line.words }}</span>
          <button type="button" class="do" [attr.aria-label]="'Remove: ' + line.words" (click)="remove(line.i)">Remove</button>
        </p>
      }
      <div class="fields">
        <span>
          <label class="lbl" for="changed-item">I changed</label>
          <select #itemField id="changed-item" class="plain" (change)="choose(itemField.value)">
            <option value="">Choose</option>
            @for (i of choices(); track i.id) {
              <option [value]="i.id" [selected]="i.id === item()">{{ i.label }}</option>
            }
          </select>
        </span>
        <span>
          <label class="lbl" for="changed-to">to</label>
          @if (options().length > 0) {
            <select #toField id="changed-to" class="plain" (change)="to.set(toField.value)">
              <option value="">Choose</option>
              @for (o of options(); track o) {
                <option [value]="o" [selected]="o === to()">{{ o }}</option>
              }
            </select>
          } @else {
            <input #toText id="changed-to" class="plain n" type="text" maxlength="40" autocomplete="off" [value]="to()" (input)="to.set(toText.value)" />
          }
        </span>
      </div>
      @if (item() && to().trim() !== '') {
        <ul class="again" aria-label="What they show now">
          @for (i of others(); track i.id) {
            <li>
              <label [attr.for]="'again-' + i.id"
                >{{ i.label }}<small class="n">was {{ i.shown }}</small></label
              >
              <input
                #again
                class="plain n"
                type="text"
                maxlength="40"
                autocomplete="off"
                [id]="'again-' + i.id"
                [placeholder]="i.shown"
                [value]="shows()[i.id] ?? ''"
                (input)="see(i.id, again.value)"
              />
            </li>
          }
        </ul>
        <p class="why" role="status">{{ sentence() }}</p>
        <p><button type="button" class="ghost" (click)="add()">Note this change</button></p>
      }
      <div class="answers">
        <button type="button" class="ghost" (click)="done.emit()">{{ s.changes.length === 0 ? 'Not tried' : 'Back later' }}</button>
        <button type="button" class="press" (click)="done.emit()">Next: the result</button>
      </div>
    }
  `,
  styleUrl: './part.scss',
  styles: `
    .how {
      font-size: 1.0625rem;
      line-height: 1.4;
    }
    .noted {
      display: flex;
      justify-content: space-between;
      gap: 12px;
      padding: 8px 0;
      border-bottom: 1px solid var(--ck-rule);
      .do {
        min-height: 40px;
      }
    }
    .again li {
      display: grid;
      grid-template-columns: 1fr 130px;
      align-items: center;
      gap: 12px;
      min-height: 52px;
      border-bottom: 1px solid var(--ck-rule);
      small {
        display: block;
        color: var(--ck-ink-2);
      }
    }
    .plain,
    select {
      min-height: 44px;
    }
  `,
})
export class SurveyChanges {
  protected readonly store = inject(SurveyStore);
  readonly done = output();
  protected readonly item = signal('');
  protected readonly to = signal('');
  protected readonly shows = signal<Readonly<Record<string, string>>>({});

  private readonly items = computed(() => this.store.survey()?.items.filter((i) => i.label.trim() !== '') ?? []);
  /** Choices first: they move others most. */
  protected readonly choices = computed(() => {
    const isChoice = (item: SurveyItem): boolean => unitOf(item) === 'choice';
    return [...this.items().filter(isChoice), ...this.items().filter((i) => !isChoice(i))];
  });
  protected readonly options = computed(() => {
    const item = this.items().find((i) => i.id === this.item());
    return item && unitOf(item) === 'choice' ? item.options.filter((o) => o !== item.shown) : [];
  });
  protected readonly others = computed(() => this.items().filter((i) => i.id !== this.item() && i.shown.trim() !== ''));
  private readonly moved = computed(() => {
    const survey = this.store.survey();
    return survey ? movedBy(survey, this.item(), this.shows()) : [];
  });
  protected readonly sentence = computed(() => this.words(this.item(), this.to(), this.moved()));
  protected readonly noted = computed(() => {
    const survey = this.store.survey();
    return survey ? survey.changes.map((c, i) => ({ i, words: this.words(c.item, c.to, movedBy(survey, c.item, c.shows)) })) : [];
  });

  private words(id: string, to: string, moved: readonly { readonly item: SurveyItem; readonly to: string }[]): string {
    const label = this.items().find((i) => i.id === id)?.label ?? '';
    return moved.length === 0
      ? `${label} at ${to} moves nothing else.`
      : `${label} at ${to} moves ${moved.map((m) => `${m.item.role == null ? m.item.label : capital(roleInfo[m.item.role].name)} to ${m.to}`).join(', ')}.`;
  }

  protected choose(id: string): void {
    this.item.set(id);
    this.to.set('');
    this.shows.set({});
  }

  protected see(id: string, text: string): void {
    this.shows.update((all) => ({ ...all, [id]: text }));
  }

  protected add(): void {
    const [item, to] = [this.item(), this.to().trim()];
    const shows = Object.fromEntries(this.others().map((i) => [i.id, (this.shows()[i.id] ?? '').trim() || i.shown]));
    this.store.edit('Note a change', (survey) => ({ ...survey, changes: [...survey.changes, { item, to, shows }].slice(-40) }));
    this.choose('');
  }

  protected remove(index: number): void {
    this.store.edit('Remove a change', (survey) => ({ ...survey, changes: survey.changes.filter((_, i) => i !== index) }));
  }
}
