import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { figureInfo, figureKeys, printWithBasis, type FigureEntry, type FigureKey } from '@calm-keel/core/sheet';
import { paperEnglish } from '@calm-keel/core/words';
import { readTable, readValue, type PastedRow } from '@calm-keel/core/paper';
import { JobStore } from '../data/job-store';
import { Glyph } from '../ui/glyph';
import { entryContext, withEntry } from '../data/edit-figure';

/** Paste text from a document, a spreadsheet or a letter, look over what was understood, and fill the figures. */
@Component({
  selector: 'ck-paste-panel',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="lbl" for="pasted">Paste a table or the text of a letter, as copied from a document, a spreadsheet or a mail</label>
    <textarea
      #area
      id="pasted"
      class="plain"
      rows="5"
      spellcheck="false"
      maxlength="60000"
      [value]="text()"
      (input)="text.set(area.value); chosen.set({})"
    ></textarea>
    @if (rows().length > 0) {
      <table>
        <tr>
          <th scope="col">Line</th>
          <th scope="col">In the document</th>
          <th scope="col">Figure</th>
          <th scope="col">Read as</th>
        </tr>
        @for (row of rows(); track $index; let i = $index) {
          <tr [class.off]="!row.entry">
            <td class="n">{{ row.line }}</td>
            <td>
              {{ row.name }} <span class="n val">{{ row.text }}</span>
            </td>
            <td>
              <select #which class="plain" [attr.aria-label]="'Figure of line ' + row.line" (change)="choose(i, which.value)">
                <option value="" [selected]="!row.key">leave out</option>
                @for (key of keys(); track key) {
                  <option [value]="key" [selected]="key === row.key">{{ nameOf(key) }}</option>
                }
              </select>
            </td>
            <td>
              @if (row.entry; as entry) {
                <ck-glyph name="done" [size]="13" /> <span class="n val">{{ words(entry) }}</span>
                @for (note of entry.assumed; track note) {
                  <small>{{ note }}</small>
                }
              } @else {
                <small class="why">{{ why(row) }}</small>
              }
            </td>
          </tr>
        }
      </table>
    }
    <p class="acts">
      <button type="button" class="ghost" (click)="apply()" [disabled]="good().length === 0">
        {{ good().length === 0 ? 'Nothing to fill yet' : good().length === 1 ? 'Fill 1 figure' : 'Fill ' + good().length + ' figures' }}
      </button>
      <button type="button" class="do" (click)="closed.emit()">Close</button>
      <span class="quiet">Lines left out change nothing. Undo takes all of it back.</span>
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 4px 0 12px;
    }
    textarea {
      font-family: var(--ck-font-num);
      font-size: 0.8438rem;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      font-size: 0.875rem;
      margin-top: 8px;
    }
    th,
    td {
      text-align: left;
      padding: 4px 8px 4px 0;
      border-bottom: 1px solid var(--ck-rule);
      vertical-align: top;
    }
    .val {
      white-space: normal;
    }
    small {
      display: block;
      color: var(--ck-ink-2);
      line-height: 1.3;
    }
    .why {
      color: var(--ck-attention);
    }
    .off td {
      color: var(--ck-ink-2);
    }
    .acts {
      padding-top: 10px;
    }
  `,
})
export class PastePanel {
  private readonly store = inject(JobStore);
  readonly closed = output();
  protected readonly text = signal('');
  /** Figures a person chose for a row, by its place; empty for "leave out". */
  protected readonly chosen = signal<Readonly<Record<number, string>>>({});

  protected readonly keys = computed(() => {
    const chemistry = this.store.job()?.sheet.chemistry;
    return figureKeys.filter((key) => (figureInfo[key].chemistries as readonly string[]).includes(chemistry ?? ''));
  });
  protected readonly rows = computed<readonly PastedRow[]>(() => {
    const plan = this.store.plan();
    if (!plan || this.text().trim() === '') return [];
    const context = entryContext(plan, undefined);
    return readTable(this.text(), context).map((row, i) => {
      const choice = this.chosen()[i];
      if (choice === undefined) return row;
      if (choice === '') return { ...row, key: null, entry: null, problem: null };
      const key = choice as FigureKey;
      const read = readValue(key, row.text, context);
      return read.ok ? { ...row, key, entry: read.value.entry, problem: null } : { ...row, key, entry: null, problem: { code: 'unreadable', value: row.text } };
    });
  });
  protected readonly good = computed(() => this.rows().filter((row) => row.entry !== null && row.key !== null));

  protected choose(row: number, key: string): void {
    this.chosen.update((all) => ({ ...all, [row]: key }));
  }

  protected nameOf(key: FigureKey): string {
    return figureInfo[key].name;
  }

  protected why(row: PastedRow): string {
    return row.problem === null ? 'Left out.' : paperEnglish.pasted(row.problem, row.key ? figureInfo[row.key].name : 'a figure');
  }

  protected words(entry: FigureEntry): string {
    return printWithBasis({ ...entry, rank: 'makerForThisCharger' });
  }

  protected apply(): void {
    const rows = this.good();
    this.store.edit(`Fill ${rows.length} figures`, (job) =>
      rows.reduce((next, row) => (row.key && row.entry ? withEntry(next, row.key, row.entry) : next), job),
    );
    this.text.set('');
    this.closed.emit();
  }
}
