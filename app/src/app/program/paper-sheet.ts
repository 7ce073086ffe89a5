import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import { lastWord, type RunSheet, type SheetStep } from '@calm-keel/core/runsheet';
import { devicesOf, type Plan } from '@calm-keel/core/settings';
import { paperOf } from '@calm-keel/core/sheet';

/** The run sheet on paper: every step with its value, and blanks for what is read, the time and the initials. */
@Component({
  selector: 'ck-paper-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h1>Run sheet, {{ job().name }}</h1>
    <p>{{ job().sheet.maker }} {{ job().sheet.battery }}, {{ paper(job().sheet) }}. Date ____________ Meter ____________________ By ______________</p>
    <p>{{ lastWord }}</p>
    @for (part of parts(); track $index) {
      <h2>{{ part.name }}</h2>
      <table>
        <thead>
          <tr>
            <th>Step</th>
            <th>Do</th>
            <th>Set</th>
            <th>Reads</th>
            <th>Time</th>
            <th>By</th>
          </tr>
        </thead>
        <tbody>
          @for (row of part.rows; track row.step.id) {
            <tr>
              <td class="n">{{ row.number }}</td>
              <td>
                <b>{{ row.step.title }}{{ row.step.value ? '' : '.' }}</b>
                @if (row.step.value; as v) {
                  <span>: {{ v.label }}</span>
                }
                @if (row.step.caution; as c) {
                  <strong> {{ c }}</strong>
                }
                <span> {{ row.step.says.join(' ') }}</span>
                @if (row.keys) {
                  <small>{{ row.keys }}</small>
                }
                @if (row.step.kind === 'edit') {
                  <small>{{ row.step.notes.join(' ') }}</small>
                }
                @if (row.step.looks; as looks) {
                  <ul>
                    @for (look of looks; track look.role) {
                      <li>
                        {{ look.label }} <span class="n">{{ look.text }}</span> <u></u>
                      </li>
                    }
                  </ul>
                }
              </td>
              <td class="n set">{{ row.step.value?.readBack ?? '' }}</td>
              <td></td>
              <td></td>
              <td></td>
            </tr>
          }
        </tbody>
      </table>
    }
    <p>Every setting of each card ends as set, left or not used: {{ fates() }}.</p>
  `,
  styles: `
    :host {
      display: none;
    }
    @media print {
      :host {
        display: block;
        font-size: 10.5pt;
        line-height: 1.3;
      }
    }
    h1 {
      font-size: 16pt;
    }
    h2 {
      font-size: 12.5pt;
      margin: 10pt 0 2pt;
      break-after: avoid;
    }
    p {
      margin-bottom: 4pt;
    }
    table {
      width: 100%;
      border-collapse: collapse;
    }
    th,
    td {
      border: 0.6pt solid var(--ck-print);
      padding: 2.5pt 4pt;
      text-align: left;
      vertical-align: top;
    }
    tr {
      break-inside: avoid;
    }
    th:nth-child(4),
    th:nth-child(5) {
      width: 56pt;
    }
    th:nth-child(6) {
      width: 40pt;
    }
    .set {
      font-size: 13pt;
      white-space: nowrap;
    }
    small {
      display: block;
    }
    li {
      display: flex;
      gap: 6pt;
    }
    u {
      flex: 1;
      border-bottom: 0.6pt solid var(--ck-print);
      text-decoration: none;
      min-width: 40pt;
    }
  `,
})
export class PaperSheet {
  protected readonly paper = paperOf;
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  readonly sheet = input.required<RunSheet>();
  protected readonly lastWord = lastWord;

  protected readonly parts = computed(() => {
    const names = new Map(devicesOf(this.plan().input).map((d) => [d.id, d.name]));
    const parts: { name: string; rows: { number: number; step: SheetStep; keys: string }[] }[] = [];
    this.sheet().steps.forEach((step, i) => {
      const name =
        step.kind === 'open'
          ? 'Switch off and tag'
          : step.kind === 'close' || step.kind === 'handBack'
            ? 'Switch on again'
            : step.device
              ? (names.get(step.device) ?? '')
              : 'Before you begin';
      const keys = (step.keys ?? []).map((k) => (k.kind === 'shows' ? `[${k.text}]` : k.how ? `${k.text} (${k.how})` : k.text)).join(' › ');
      const row = { number: i + 1, step, keys };
      const last = parts.at(-1);
      if (last?.name === name) last.rows.push(row);
      else parts.push({ name, rows: [row] });
    });
    return parts;
  });
  protected readonly fates = computed(() => {
    const count = (ends: readonly string[]): number => this.sheet().fates.filter((f) => ends.includes(f.ends)).length;
    return `${count(['set', 'stands', 'open'])} set or right already, ${count(['inherited'])} inherited, ${count(['left'])} left, ${count(['notUsed'])} not used`;
  });
}
