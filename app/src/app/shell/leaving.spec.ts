import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { JobStore } from '../data/job-store';
import { Leaving } from './leaving';

describe('leaving a job', () => {
  const unstored = signal<{ id: string }[]>([]);
  let leaving: Leaving;

  beforeEach(() => {
    unstored.set([]);
    TestBed.configureTestingModule({ providers: [{ provide: JobStore, useValue: { job: () => ({ id: 'barge' }), unstored } }] });
    leaving = TestBed.inject(Leaving);
  });

  it('goes at once when everything of it is stored', () => {
    expect(leaving.mayLeave()).toBeTrue();
    expect(leaving.asking()).toBeFalse();
  });

  it('goes at once when only another job is not stored', () => {
    unstored.set([{ id: 'hut' }]);
    expect(leaving.mayLeave()).toBeTrue();
  });

  it('is asked about when it is not stored, and does as it is answered', async () => {
    unstored.set([{ id: 'barge' }]);
    for (const answer of [true, false]) {
      const left = leaving.mayLeave();
      expect(leaving.asking()).toBeTrue();
      leaving.answer(answer);
      expect(await left).toBe(answer);
      expect(leaving.asking()).toBeFalse();
    }
  });

  it('takes a second way off for a no to the first', async () => {
    unstored.set([{ id: 'barge' }]);
    const first = leaving.mayLeave();
    const second = leaving.mayLeave();
    expect(await first).toBeFalse();
    leaving.answer(true);
    expect(await second).toBeTrue();
  });
});
