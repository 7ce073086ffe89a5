import { ChangeDetectionStrategy, Component, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import { version } from '../../../../package.json';
import { Glyph, type GlyphName } from '../ui/glyph';
import { SafePanel } from './safe-panel';

const legend: readonly (readonly [GlyphName, string])[] = [
  ['proved', 'Proved'],
  ['done', 'Done'],
  ['attention', 'Attention'],
  ['stop', 'Stop'],
  ['notyet', 'Not yet'],
  ['inconclusive', 'Inconclusive'],
];

/** Under the list: what this is and is not, how safely the jobs lie here, and what the marks mean. */
@Component({
  selector: 'ck-jobs-foot',
  imports: [Glyph, RouterLink, SafePanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <footer>
      <div>
        <p><b>Seven stations, one order</b><br />Open a job at any station. The keel deepens as each one is done. Only Prove says proved.</p>
        <p>
          <b>What this tool does not do</b><br />It advises and checks; it switches nothing, and writes to a device only what you confirm. The maker’s manual,
          local codes and licensed people decide. <a class="do" routerLink="/label">Compare a charger with its label</a>
        </p>
        <p>
          <a class="do" href="changes.txt" target="_blank" rel="noopener">Version {{ version }}: what is new</a>
        </p>
        <p><a class="do" href="licences.txt" target="_blank" rel="noopener">Licences of what is in it</a></p>
      </div>
      <ck-safe-panel (restore)="restored.emit()" />
      <ul class="legend">
        @for (l of legend; track l[0]) {
          <li><ck-glyph [name]="l[0]" [size]="15" />{{ l[1] }}</li>
        }
      </ul>
    </footer>
  `,
  styles: `
    footer {
      display: grid;
      grid-template-columns: 1.1fr 1.1fr auto;
      gap: 24px 40px;
      padding-top: 28px;
      font-size: 0.8438rem;
      color: var(--ck-ink-2);
      b {
        color: var(--ck-ink);
      }
      p + p {
        margin-top: 10px;
      }
    }
    .legend {
      display: grid;
      grid-template-columns: auto auto;
      align-content: start;
      gap: 4px 22px;
      color: var(--ck-ink);
      li {
        display: flex;
        gap: 7px;
        align-items: center;
      }
    }
    @media (max-width: 767px) {
      footer {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class JobsFoot {
  protected readonly version = version;
  protected readonly legend = legend;
  /** A backup is to be brought in. */
  readonly restored = output();
}
