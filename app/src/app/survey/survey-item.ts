import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { deviceUnitsFor, roleInfo, type DeviceUnit, type Role } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { asksOf, meaningsOf, onItem, readShown, searchRoles, unitOf, withoutItem, type Ask, type SurveyItem } from '@calm-keel/core/survey';
import { glossaryEnglish, surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';

/** One setting as it is met: what the display calls it and shows, what it means, and where it stops. */
@Component({
  selector: 'ck-survey-item',
  imports: [NgTemplateOutlet, Glyph, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './survey-item.html',
  styleUrls: ['./part.scss', './survey-item.scss'],
})
export class SurveyItemStep {
  private readonly store = inject(SurveyStore);
  readonly item = input.required<SurveyItem>();
  readonly done = output<{ readonly id: string; readonly change: Partial<SurveyItem> }>();
  /** That was the last one. */
  readonly walked = output();
  private readonly id = computed(() => this.item().id);
  protected readonly words = surveyEnglish;
  protected readonly roleInfo = roleInfo;
  protected readonly capital = capital;

  private readonly survey = this.store.survey;
  protected readonly place = computed(() => (this.survey()?.items.findIndex((i) => i.id === this.id()) ?? 0) + 1);
  protected readonly isLast = computed(() => this.place() === this.survey()?.items.length);
  private readonly before = computed(() => this.survey()?.items[this.place() - 2]?.role ?? undefined);
  protected readonly menuText = computed(() => this.item().menu.join(' › '));
  protected readonly isWord = computed(() => this.item().unit === 'choice' || (this.item().unit === undefined && readShown(this.item().shown).kind === 'word'));

  /** What it may mean by the looks of it; what other items mean is not among it. */
  protected readonly guesses = computed(() => {
    const survey = this.survey();
    if (!survey) return [];
    const taken = survey.items.flatMap((i) => (i.id !== this.id() && i.role != null ? [i.role] : []));
    const { label, shown, factory = '' } = this.item();
    return meaningsOf(
      { label, shown: shown.trim() === '' ? factory : shown },
      {
        kind: survey.card.kind,
        systemVolts: survey.card.ratings.systemVolts,
        taken,
        before: this.before(),
        terms: this.words.roleTerms,
      },
    );
  });
  /** Chosen, or what is likeliest; a word on the display is guessed by its name alone. */
  protected readonly meant = computed<Role | null | undefined>(() => {
    const { role } = this.item();
    return role !== undefined ? role : this.guesses()[0]?.role;
  });
  protected readonly isGuess = computed(() => this.item().role === undefined && this.meant() != null);
  /** What each setting does. */
  protected readonly meanings = glossaryEnglish.roles;
  protected readonly because = computed(() => {
    const guess = this.guesses()[0];
    return guess && this.isGuess() ? this.words.reasons(guess, this.item().shown.trim(), this.before()) : '';
  });
  /** The next likely ones, to be had with one press. */
  protected readonly others = computed(() =>
    this.guesses()
      .map((g) => g.role)
      .filter((role) => role !== this.meant() && measuresLike(role, this.meant()))
      .slice(0, 2),
  );

  // Choosing another meaning.
  protected readonly choosing = linkedSignal<string, boolean>({ source: this.id, computation: () => false });
  protected readonly sought = linkedSignal<string, string>({ source: this.id, computation: () => '' });
  protected readonly found = computed(() => searchRoles(this.sought(), this.words.roleTerms).slice(0, this.sought().trim() === '' ? 80 : 12));

  protected readonly unit = computed<DeviceUnit | 'choice' | undefined>(() => {
    const item = this.item();
    if (item.unit !== undefined) return item.unit;
    const guess = this.guesses().find((g) => g.role === this.meant());
    return guess?.unit ?? unitOf({ ...item, role: this.meant() ?? null });
  });
  protected readonly unitText = computed(() => {
    const unit = this.unit();
    return unit === undefined || unit === 'choice' ? '' : this.words.unit(unit);
  });
  protected readonly units = computed(() => {
    const role = this.meant();
    const core = role == null ? null : roleInfo[role].unit;
    return core === null || core === 'choice' ? [] : deviceUnitsFor(core).map((value) => ({ value, words: this.words.unit(value) || 'no unit' }));
  });
  protected readonly isChoice = computed(() => {
    const role = this.meant();
    return this.unit() === 'choice' || (role != null && roleInfo[role].unit === 'choice');
  });
  protected readonly endsWhy = computed(() => this.words.endsWhy(this.meant(), this.item().shown.trim()));

  protected readonly asks = computed(() => {
    const survey = this.survey();
    if (!survey) return [];
    const taken = onItem(survey, this.id(), this.understood());
    return asksOf(taken, this.id()).map((ask) => ({ ask, ...this.words.asks(ask) }));
  });
  /** What is taken with a yes besides what was typed. */
  private readonly understood = computed<Partial<SurveyItem>>(() => {
    const [role, unit] = [this.meant(), this.isChoice() ? 'choice' : this.unit()];
    return { ...(role === undefined ? {} : { role }), ...(unit === undefined ? {} : { unit }) };
  });
  protected readonly options = computed(() => {
    const { options, shown } = this.item();
    return [...new Set([...(shown.trim() === '' ? [] : [shown.trim()]), ...options])];
  });

  /** Changes the setting; a change that rests on what it has is worked out from what is stored, so that of two quick ones none is lost. */
  protected put(change: Partial<SurveyItem> | ((item: SurveyItem) => Partial<SurveyItem>), label: string, key = ''): void {
    const id = this.id();
    this.store.edit(
      label,
      (survey) => {
        const item = survey.items.find((i) => i.id === id);
        return item ? onItem(survey, id, typeof change === 'function' ? change(item) : change) : survey;
      },
      key && `${id} ${key}`,
    );
  }

  protected label(text: string): void {
    this.put({ label: text }, 'Type what it is called', 'label');
  }

  protected shown(text: string): void {
    this.put({ shown: text }, 'Type what it shows', 'shown');
  }

  protected menu(text: string): void {
    const menu = text
      .split(/[›>/]/)
      .map((t) => t.trim())
      .filter((t) => t !== '')
      .slice(0, 8);
    this.put({ menu }, 'Type the menu it is in', 'menu');
  }

  protected means(role: Role | null): void {
    this.choosing.set(false);
    this.sought.set('');
    const guess = this.guesses().find((g) => g.role === role);
    // A unit that was chosen for another meaning may not measure this one.
    const unit = guess?.unit ?? (role === null ? undefined : unitOf({ ...this.item(), unit: undefined, role }));
    this.put({ role, unit }, role === null ? 'What it means is not known' : `Say that it is ${roleInfo[role].name}`);
  }

  protected setUnit(value: string): void {
    const unit = this.units().find((u) => u.value === value)?.value;
    if (unit) this.put({ unit, ...(this.meant() === undefined ? {} : { role: this.meant() ?? null }) }, 'Choose its unit');
  }

  protected end(which: 'least' | 'most' | 'step', value: number | undefined): void {
    this.put({ [which]: value }, 'Type where it stops', which);
  }

  protected round(): void {
    this.put((item) => ({ runsRound: item.runsRound !== true }), 'Change whether it runs round');
  }

  protected addOption(field: HTMLInputElement): void {
    const text = field.value.trim();
    field.value = '';
    field.focus();
    if (text !== '') this.put((item) => ({ options: [...new Set([...item.options, text])].slice(0, 20), unit: 'choice' }), `Add the choice ${text}`);
  }

  protected dropOption(text: string): void {
    this.put((item) => ({ options: item.options.filter((o) => o !== text) }), `Remove the choice ${text}`);
  }

  protected accept(ask: Ask): void {
    if (ask.yes) this.put(ask.yes, 'Take over what was asked');
  }

  protected remove(): void {
    const id = this.id();
    this.store.edit('Remove a setting', (survey) => {
      const at = survey.items.findIndex((i) => i.id === id);
      const next = withoutItem(survey, id);
      const item = next.items[Math.max(0, at - 1)]?.id;
      return { ...next, at: { part: 'walk', ...(item === undefined ? {} : { item }) } };
    });
  }

  /** Takes what is understood, and goes on. With nothing typed there is nothing to take. */
  protected yes(): void {
    if (this.nothing()) return;
    this.done.emit({ id: this.id(), change: { ...this.understood(), looked: true } });
  }

  /** Goes on without saying what it means. */
  protected skip(): void {
    this.done.emit({ id: this.id(), change: {} });
  }

  protected readonly nothing = computed(() => this.item().label.trim() === '' && this.item().shown.trim() === '');

  /** Enter goes on: from the name to what it shows, from there to the next setting. */
  protected enter(event: Event, to: HTMLInputElement | null): void {
    event.preventDefault();
    if (to) to.focus();
    else this.yes();
  }
}

/** Whether two settings measure the same: what else a number may be. */
const measuresLike = (role: Role, meant: Role | null | undefined): boolean => meant == null || roleInfo[role].unit === roleInfo[meant].unit;
