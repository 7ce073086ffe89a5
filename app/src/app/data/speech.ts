import { computed, inject, Injectable } from '@angular/core';
import { alike, type ChangedSetting, type Finding } from '@calm-keel/core/findings';
import type { Job } from '@calm-keel/core/job';
import { english, sayFor, shortOf, speakAlike, speakFinding, type Say, type SpokenFinding } from '@calm-keel/core/words';
import { JobStore } from './job-store';
import { Units } from './units';

/** Says what the core found about the open job, in the scale that was chosen. */
@Injectable({ providedIn: 'root' })
export class Speech {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  private readonly say = computed<Say | null>(() => {
    const job = this.store.job();
    return job && sayFor(job, this.units.scale());
  });

  /** Findings in words, of the open job or of another state of it, such as one with a device that is only thought of; none while no job is open. */
  findings(findings: readonly Finding[], on?: Job): readonly SpokenFinding[] {
    const say = on ? sayFor(on, this.units.scale()) : this.say();
    return say ? findings.map((finding) => speakFinding(english, finding, say)) : [];
  }

  /** The same of the open job, what is found alike on several devices said once: each with all that it stands for. */
  alike(findings: readonly Finding[], apart: (finding: Finding) => string): readonly { readonly spoken: SpokenFinding; readonly all: readonly Finding[] }[] {
    const say = this.say();
    return say ? alike(findings, apart).map((all) => ({ spoken: speakAlike(english, all, say), all })) : [];
  }

  /** A value that a choice changes. */
  changed(change: ChangedSetting): string {
    const say = this.say();
    return say ? english.changed(change, say) : '';
  }

  /** What the list of devices says of one with this finding. */
  short(code: string): string {
    return shortOf(english, code);
  }
}
