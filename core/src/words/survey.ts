import type { CardUnknown, DeviceUnit, Role, SettingWay, unknownGroups } from '../card';
import type { Ask, HabitAnswer, HabitId, MeaningGuess, RoleTerms, SurveyPart, SurveyTexts } from '../survey';

/** A question about what a device does by itself: how to find out, and what hangs on it. */
export interface HabitWords<H extends HabitId> {
  /** In a list, before the answer. */
  readonly name: string;
  readonly question: string;
  readonly how: string;
  readonly hangs: string;
  readonly answers: Readonly<Record<HabitAnswer<H>, string>>;
}

/** Everything the survey of a device says in one language. */
export interface SurveyWords extends SurveyTexts {
  readonly roleTerms: RoleTerms;
  readonly parts: Readonly<Record<SurveyPart, string>>;
  readonly ways: Readonly<Record<SettingWay, { readonly name: string; readonly how: string }>>;
  /** What speaks for a guess, behind "guessed". */
  readonly reasons: (guess: MeaningGuess, shown: string, before: Role | undefined) => string;
  readonly asks: (ask: Ask) => { readonly says: string; readonly question: string; readonly yes?: string };
  /** Why its ends are worth trying, and to set it back. */
  readonly endsWhy: (role: Role | null | undefined, shown: string) => string;
  readonly habits: { readonly [H in HabitId]: HabitWords<H> };
  /** What each unknown costs: of a group, and of those of its own that cost something else. */
  readonly costs: Readonly<Record<'ranges' | keyof typeof unknownGroups, string>> & Readonly<Partial<Record<CardUnknown, string>>>;
  readonly unit: (unit: DeviceUnit | 'choice') => string;
  readonly ends: (
    ends: { readonly least?: number | undefined; readonly most?: number | undefined; readonly step?: number | undefined },
    unit: string,
  ) => string;
}
