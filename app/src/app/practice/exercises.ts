import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { drawExercise, faultsNext, weightsOf, type Exercise, type PlaceCode } from '@calm-keel/core/practice';
import { Library } from '../data/library';
import { PracticeBook } from '../data/practice-book';

/** Begins exercises and goes to them. */
@Injectable({ providedIn: 'root' })
export class Exercises {
  private readonly library = inject(Library);
  private readonly book = inject(PracticeBook);
  private readonly router = inject(Router);

  /** A seed that nobody chose. */
  readonly seed = (): number => Math.floor(Math.random() * 2 ** 31);

  /** Draws the next exercise from what the book says, anywhere or at a place. False where it could not be begun. */
  async next(place?: PlaceCode): Promise<boolean> {
    const shipped = this.library.shipped();
    const entries = this.book.entries() ?? [];
    if (!shipped) return false;
    return this.begin(drawExercise(this.seed(), shipped, { ...(place ? { place } : {}), faults: faultsNext(entries), weight: weightsOf(entries) }));
  }

  async begin(exercise: Exercise): Promise<boolean> {
    const id = await this.book.begin(exercise);
    return id !== null && this.router.navigate(['/practice/bench', id]);
  }
}
