import { ApplicationRef, ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, type OnDestroy, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { format } from 'date-fns';
import { asksOf, freeItem, habitsFor, surveyParts, withItem, type Survey, type SurveyItem, type SurveyPart } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { ViewSize } from '../data/view-size';
import { Glyph } from '../ui/glyph';
import { SurveyChanges } from './survey-changes';
import { SurveyHabits } from './survey-habits';
import { SurveyItemStep } from './survey-item';
import { SurveyList } from './survey-list';
import { SurveyPlate } from './survey-plate';
import { SurveyResult } from './survey-result';
import { SurveyWay } from './survey-way';

/** A mark on the ruler over the screen: one item of the walk, or one of the other parts. */
interface Mark {
  readonly key: string;
  readonly state: 'done' | 'open' | 'passed';
  readonly here: boolean;
}

/** A charger looked over item by item: one thing on the screen, its answers at the bottom. */
@Component({
  selector: 'ck-survey-page',
  imports: [RouterLink, Glyph, SurveyPlate, SurveyWay, SurveyItemStep, SurveyHabits, SurveyChanges, SurveyResult, SurveyList],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './survey-page.html',
  styleUrl: './survey-page.scss',
  host: { '(document:keydown)': 'keys($event)' },
})
export class SurveyPage implements OnDestroy {
  protected readonly store = inject(SurveyStore);
  protected readonly size = inject(ViewSize);
  private readonly router = inject(Router);
  private readonly app = inject(ApplicationRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly id = input.required<string>();
  /** The station it was begun from. */
  readonly from = input<string>();
  protected readonly listOpen = signal(false);
  protected readonly words = surveyEnglish;

  protected readonly survey = computed(() => this.store.survey());
  protected readonly part = computed<SurveyPart>(() => this.survey()?.at.part ?? 'plate');
  protected readonly item = computed(() => {
    const survey = this.survey();
    return survey?.items.find((i) => i.id === survey.at.item) ?? null;
  });
  protected readonly name = computed(() => {
    const card = this.survey()?.card;
    return card ? `${card.maker} ${card.model}`.trim() : '';
  });
  /** Where one leaves to. */
  protected readonly back = computed<readonly string[]>(() => {
    const on = this.survey()?.on;
    return on ? ['/job', on.job, this.from() === 'program' ? 'program' : 'system'] : ['/library'];
  });
  protected readonly where = computed(() => {
    const survey = this.survey();
    const item = this.item();
    const at = survey && item && this.part() === 'walk' ? `Setting ${survey.items.indexOf(item) + 1}` : this.words.parts[this.part()];
    const saved = this.store.savedAt();
    return saved === 0 ? at : `${at}, saved ${format(saved, 'HH:mm')}`;
  });
  protected readonly count = computed(() => {
    const n = this.survey()?.items.length ?? 0;
    return n === 0 ? '' : `${n} ${n === 1 ? 'setting' : 'settings'}${this.survey()?.walked ? '' : ' so far'}`;
  });
  protected readonly marks = computed<readonly Mark[]>(() => {
    const survey = this.survey();
    if (!survey) return [];
    const { part } = survey.at;
    const asked = habitsFor(this.store.card() ?? survey.card);
    const answered = asked.filter((h) => survey.habits[h] !== undefined).length;
    const state = (done: boolean, passed = false): Mark['state'] => (done ? 'done' : passed ? 'passed' : 'open');
    return [
      { key: 'plate', state: state(part !== 'plate'), here: part === 'plate' },
      { key: 'way', state: state(survey.way !== undefined), here: part === 'way' },
      ...survey.items.map((item) => ({
        key: item.id,
        state: state(item.looked && item.role !== undefined && item.role !== null && asksOf(survey, item.id).length === 0, item.looked || item.label !== ''),
        here: part === 'walk' && survey.at.item === item.id,
      })),
      ...(survey.items.length === 0 || (!survey.walked && part !== 'walk')
        ? [{ key: 'walk', state: 'open' as const, here: part === 'walk' && survey.items.length === 0 }]
        : []),
      { key: 'habits', state: state(answered === asked.length, answered > 0), here: part === 'habits' },
      { key: 'changes', state: state(survey.changes.length > 0), here: part === 'changes' },
      { key: 'result', state: 'open', here: part === 'result' },
    ];
  });

  constructor() {
    effect(() => {
      this.store.open(this.id());
    });
  }

  ngOnDestroy(): void {
    this.store.close();
  }

  protected keys(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !(event.target instanceof HTMLInputElement)) {
      event.preventDefault();
      this.store.undo();
    }
    if (event.key === 'Escape' && this.listOpen()) this.listOpen.set(false);
    if (this.listOpen()) return;
    if ((event.ctrlKey || event.metaKey) && event.key === 'Enter') {
      event.preventDefault();
      this.goOn(event.target);
    }
    if (this.part() === 'walk' && (event.key === 'PageDown' || event.key === 'PageUp')) {
      event.preventDefault();
      this.leaf(event.key === 'PageDown' ? 1 : -1);
    }
  }

  /** What goes on from this screen, pressed from anywhere on it: what is typed in a field counts first. */
  private goOn(field: EventTarget | null): void {
    if (field instanceof HTMLElement) field.blur();
    this.app.tick();
    this.host.nativeElement.querySelector<HTMLButtonElement>('.answers .press:enabled')?.click();
  }

  /** To the setting before or behind the one in view, as it stands. */
  private leaf(by: 1 | -1): void {
    const survey = this.survey();
    const items = survey?.items ?? [];
    const there = items[items.findIndex((i) => i.id === survey?.at.item) + by];
    if (there) this.go('walk', there.id);
  }

  /** What comes next is in view from its top and its first field ready before another key is pressed: somebody who types fast loses none. */
  protected settle(): void {
    this.app.tick();
    window.scrollTo(0, 0);
    this.host.nativeElement.querySelector<HTMLElement>('[data-first]')?.focus({ preventScroll: true });
  }

  /** Goes to a part, the walk to its first item that was not looked at. */
  protected go(part: SurveyPart, item?: string): void {
    this.listOpen.set(false);
    this.store.edit(`Go to ${this.words.parts[part].toLowerCase()}`, (survey) => moveTo(survey, part, item), 'go');
    this.settle();
  }

  protected next(): void {
    this.go(surveyParts[surveyParts.indexOf(this.part()) + 1] ?? 'result');
  }

  /** On from one item: to the one behind it, or to a new one. */
  protected onward({ id, change }: { readonly id: string; readonly change: Partial<SurveyItem> }): void {
    this.store.edit('Go on', (survey) => {
      const marked: Survey = { ...survey, items: survey.items.map((i) => (i.id === id ? { ...i, ...change } : i)) };
      const following = marked.items[marked.items.findIndex((i) => i.id === id) + 1];
      if (following) return moveTo(marked, 'walk', following.id);
      return marked.walked ? moveTo(marked, 'habits') : fresh(marked);
    });
    this.settle();
  }

  protected another(): void {
    this.listOpen.set(false);
    this.store.edit('Add a setting', (survey) => fresh({ ...survey, walked: false }));
    this.settle();
  }

  /** That was the whole list: what was begun and left empty goes. */
  protected walked(): void {
    this.store.edit('End of the list', (survey) => ({
      ...survey,
      walked: true,
      items: survey.items.filter((i) => i.label.trim() !== '' || i.shown.trim() !== ''),
      at: { part: 'habits' },
    }));
    this.settle();
  }

  protected async finish(): Promise<void> {
    try {
      const back = this.back();
      const on = await this.store.finish();
      await this.router.navigate([...back], on ? { queryParams: { device: on.device } } : { queryParams: { show: this.id() } });
    } catch {
      // The sentence is on the page already.
    }
  }
}

/** A new item behind the others, in the menu of the one before it. */
function fresh(survey: Survey): Survey {
  const id = freeItem(survey);
  const next = withItem(survey, { id, label: '', menu: survey.items.at(-1)?.menu ?? [], shown: '', options: [], looked: false });
  return next === survey ? moveTo(survey, 'habits') : moveTo(next, 'walk', id);
}

function moveTo(survey: Survey, part: SurveyPart, item?: string): Survey {
  if (part !== 'walk') return { ...survey, at: { part } };
  const target = item ?? survey.items.find((i) => !i.looked)?.id ?? survey.items[0]?.id;
  return target === undefined ? fresh(survey) : { ...survey, at: { part, item: target } };
}
