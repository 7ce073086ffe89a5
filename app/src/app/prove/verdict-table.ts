import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { verdictWords, type ProofRow } from '@calm-keel/core/proof';
import { requirementKey, allowedWords } from '@calm-keel/core/requirements';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { BandLine } from '../ui/band-line';
import { Glyph } from '../ui/glyph';
import { measuredWords, verdictGlyphs, verdictMarks } from '../ui/verdicts';
import { Moves } from '../ui/moves';

/** Verdicts of one log or test, grouped by question, worst first; what was not tested stands folded at the end. */
@Component({
  selector: 'ck-verdict-table',
  imports: [Moves, BandLine, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: './verdict-table.scss',
  template: `
    <div ckMoves="Verdicts">
      <table class="verdicts">
        <caption class="visually-hidden">
          Verdict of each requirement
        </caption>
        @for (g of groups(); track g.question) {
          <tbody [attr.aria-label]="g.name">
            <tr class="gh">
              <th scope="colgroup" colspan="2">
                {{ g.name }}<small>{{ g.asks }}</small>
              </th>
              <th class="r">Measured</th>
              <th class="lineh"><span class="visually-hidden">On a line</span></th>
              <th>Allowed</th>
              <th>{{ where() }}</th>
            </tr>
            @for (row of g.rows; track keyOf(row)) {
              <tr [class.sel]="keyOf(row) === chosen()" (click)="choose.emit(row)">
                <td>
                  <span [class]="'st t-' + glyphs[row.verdict]"><ck-glyph [name]="glyphs[row.verdict]" [size]="15" />{{ words[row.verdict] }}</span>
                </td>
                <td class="what">
                  <button type="button" [attr.aria-pressed]="keyOf(row) === chosen()" (click)="choose.emit(row); $event.stopPropagation()">
                    {{ row.requirement.name }} <small>{{ nameOf(row) }}</small>
                  </button>
                </td>
                <td class="n r">
                  @if (measured(row); as m) {
                    {{ m.value }} <small>{{ m.plus }}</small>&ngsp;<i>{{ m.unit }}</i>
                  }
                </td>
                <td class="lineh">
                  @if (row.measured !== null && (row.band.min !== undefined || row.band.max !== undefined)) {
                    <ck-band-line [value]="row.measured" [uncertainty]="row.uncertainty ?? 0" [band]="row.band" [width]="88" [mark]="marks[row.verdict]" />
                  }
                </td>
                <td class="al">{{ allowed(row) }}</td>
                <td>
                  @if (row.evidence) {
                    <button type="button" class="do n" (click)="show.emit(row); $event.stopPropagation()">{{ when()(row) }}</button>
                  }
                </td>
              </tr>
            }
            @if (g.silent.length > 0) {
              <tr class="more">
                <td colspan="6">
                  <button type="button" class="do" [attr.aria-expanded]="all()" (click)="all.set(!all())">
                    {{ all() ? 'Hide' : 'Show' }} {{ g.silent.length }} not tested {{ all() ? '' : 'here' }}
                  </button>
                </td>
              </tr>
            }
          </tbody>
        }
      </table>
    </div>
  `,
})
export class VerdictTable {
  private readonly store = inject(JobStore);
  private readonly units = inject(Units);
  readonly rows = input.required<readonly ProofRow[]>();
  readonly chosen = input<string | null>(null);
  readonly when = input.required<(row: ProofRow) => string>();
  readonly where = input('In the log');
  readonly choose = output<ProofRow>();
  readonly show = output<ProofRow>();
  protected readonly all = signal(false);
  protected readonly glyphs = verdictGlyphs;
  protected readonly marks = verdictMarks;
  protected readonly words = verdictWords;
  protected readonly keyOf = requirementKey;

  protected readonly groups = computed(() =>
    (
      [
        { question: 'specified', name: 'As specified', asks: 'what the maker’s sheet demands' },
        { question: 'programmed', name: 'As programmed', asks: 'what each device is set to' },
      ] as const
    )
      .map((g) => {
        const own = this.rows().filter((r) => r.requirement.question === g.question);
        const told = own.filter((r) => r.verdict !== 'notTested');
        const silent = own.filter((r) => r.verdict === 'notTested');
        return { ...g, rows: this.all() ? [...told, ...silent] : told, silent };
      })
      .filter((g) => g.rows.length + g.silent.length > 0),
  );
  private readonly names = computed(() => {
    const system = this.store.job()?.system;
    return new Map([...(system?.chargers ?? []), ...(system?.companions ?? [])].map((d) => [d.id, d.name]));
  });
  protected nameOf(row: ProofRow): string {
    return this.names().get(row.requirement.charger ?? '') ?? 'Bank';
  }
  protected measured(row: ProofRow) {
    return measuredWords(row, this.units.scale());
  }
  protected allowed(row: ProofRow): string {
    return allowedWords(row, (c) => this.units.temperature(c));
  }
}
