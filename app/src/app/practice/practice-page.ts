import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { cardKindWords } from '@calm-keel/core/card';
import { placeCodes, prepare, programmable, standings, type PlaceCode } from '@calm-keel/core/practice';
import { practiceEnglish } from '@calm-keel/core/words';
import { Library } from '../data/library';
import { PracticeBook } from '../data/practice-book';
import { Glyph } from '../ui/glyph';
import { Exercises } from './exercises';
import { PracticeFrame } from './practice-frame';

/** What can be practised: the next exercise out of the book, one at a place, a device to program, a front to try. */
@Component({
  selector: 'ck-practice-page',
  imports: [RouterLink, Glyph, PracticeFrame],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './practice-page.html',
  styleUrl: './practice-page.scss',
})
export class PracticePage {
  protected readonly library = inject(Library);
  protected readonly book = inject(PracticeBook);
  protected readonly exercises = inject(Exercises);

  protected readonly ready = computed(() => this.library.shipped() !== null);
  protected readonly entries = computed(() => this.book.entries() ?? []);
  /** How it stands, in one line. */
  protected readonly record = computed(() => {
    const finds = this.entries();
    if (finds.length === 0) return 'Nothing practised yet. The first exercise has one fault.';
    const passed = finds.filter((e) => e.passed).length;
    const again = standings(finds).filter((s) => s.last === false).length;
    return `${finds.length === 1 ? '1 exercise' : `${finds.length} exercises`}, ${passed} solved.${again > 0 ? ` The next is drawn from ${again === 1 ? 'the one kind' : `the ${again} kinds`} you missed.` : ''}`;
  });
  protected readonly underWay = computed(() => {
    const row = this.book.underWay();
    return row && { id: row.id, place: practiceEnglish.places[row.exercise.place].name, steps: row.actions.length };
  });
  protected readonly places = computed(() => {
    const shipped = this.library.shipped();
    if (!shipped) return [];
    return placeCodes.map((code) => {
      const at = prepare(code, shipped);
      const name = (id: string): string => at.plan.input.system.chargers.find((c) => c.id === id)?.name ?? id;
      return { code, ...practiceEnglish.places[code], devices: programmable(at).map((id) => ({ id, name: name(id) })) };
    });
  });
  protected readonly fronts = computed(() =>
    this.library.cards().map((card) => ({
      id: card.id,
      name: `${card.maker} ${card.model}`,
      about: `${cardKindWords[card.kind]}${this.library.ownCards().some((c) => c.id === card.id) ? ', own' : ''}`,
    })),
  );

  protected program(place: PlaceCode, device: string): Promise<boolean> {
    return this.exercises.begin({ kind: 'program', seed: this.exercises.seed(), place, device });
  }
}
