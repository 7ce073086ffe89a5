import { ChangeDetectionStrategy, Component, computed, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { labelAgrees, readLabel } from '@calm-keel/core/report';
import { Glyph } from '../ui/glyph';

/** What a charger shows, compared with the label on its lid. No job is wanted for it. */
@Component({
  selector: 'ck-label-page',
  imports: [RouterLink, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="bar">
      <a class="do" routerLink="/">Jobs</a>
      <h1>Compare a charger with its label</h1>
    </header>
    <main>
      <label class="lbl" for="label-text">The text of the label’s code: scan it with the phone’s camera, copy it, paste it here</label>
      <textarea #area id="label-text" class="plain" rows="4" spellcheck="false" [value]="text()" (input)="take(area.value)"></textarea>
      @if (read(); as r) {
        @if (r.ok) {
          <h2>{{ r.value.device }}, {{ r.value.model }}</h2>
          <p>{{ r.value.site }}. {{ r.value.by }}. {{ r.value.date }}, {{ r.value.state }}.</p>
          <p class="quiet">Read each value off the charger’s display and enter it as it is shown there.</p>
          <table>
            <thead>
              <tr>
                <th scope="col">Setting</th>
                <th scope="col">Label</th>
                <th scope="col">Display</th>
                <th scope="col"><span class="visually-hidden">Result</span></th>
              </tr>
            </thead>
            <tbody>
              @for (line of r.value.lines; track line.label) {
                <tr>
                  <th scope="row">{{ line.label }}</th>
                  <td class="n">{{ line.value }}</td>
                  <td>
                    <input
                      #field
                      class="plain n"
                      [attr.aria-label]="'Display shows for ' + line.label"
                      autocomplete="off"
                      [value]="seen()[line.label] ?? ''"
                      (input)="see(line.label, field.value)"
                    />
                  </td>
                  <td>
                    @if ((seen()[line.label] ?? '').trim() !== '') {
                      @if (agrees(line, seen()[line.label] ?? '')) {
                        <span class="st t-done"><ck-glyph name="done" [size]="15" />the same</span>
                      } @else {
                        <span class="st t-stop"><ck-glyph name="stop" [size]="15" />otherwise</span>
                      }
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
          <p class="sum" role="status">{{ summary() }}</p>
        } @else {
          @for (p of r.problems; track $index) {
            <p class="wrong" role="alert">{{ p.text }}</p>
          }
        }
      }
    </main>
  `,
  styles: `
    .bar {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 20px;
      align-items: center;
      min-height: 52px;
      padding: 6px 16px;
      border-bottom: 1px solid var(--ck-rule);
    }
    h1 {
      font-size: 1.125rem;
      font-weight: var(--ck-w-strong);
    }
    main {
      max-width: 720px;
      padding: 14px 16px 32px;
    }
    h2 {
      font-size: 1.25rem;
      font-weight: var(--ck-w-strong);
      margin-top: 14px;
    }
    table {
      width: 100%;
      border-collapse: collapse;
      margin-top: 8px;
    }
    th,
    td {
      text-align: left;
      border-bottom: 1px solid var(--ck-rule);
      padding: 5px 8px 5px 0;
      font-weight: 400;
    }
    thead th {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
      border-bottom-color: var(--ck-ink);
    }
    td input {
      width: 130px;
      min-height: 44px;
    }
    .sum {
      padding-top: 10px;
      font-weight: 600;
    }
    @media (max-width: 480px) {
      td input {
        width: 92px;
      }
    }
  `,
})
export class LabelPage {
  protected readonly text = signal('');
  protected readonly seen = signal<Readonly<Record<string, string>>>({});
  protected readonly read = computed(() => (this.text().trim() === '' ? null : readLabel(this.text())));
  protected readonly agrees = labelAgrees;
  protected readonly summary = computed(() => {
    const read = this.read();
    if (!read?.ok) return '';
    const { lines } = read.value;
    const entered = lines.filter((l) => (this.seen()[l.label] ?? '').trim() !== '');
    const off = entered.filter((l) => !labelAgrees(l, this.seen()[l.label] ?? '')).length;
    if (entered.length === 0) return `${lines.length} values to compare.`;
    if (off > 0) return `${off === 1 ? 'One value is' : `${off} values are`} otherwise than the label says. Ask who set it before you change anything.`;
    return entered.length === lines.length ? 'Every value is as the label says.' : `${entered.length} of ${lines.length} compared, all the same so far.`;
  });

  protected take(text: string): void {
    this.text.set(text);
    this.seen.set({});
  }

  protected see(label: string, value: string): void {
    this.seen.update((all) => ({ ...all, [label]: value }));
  }
}
