import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import type { Paper } from '@calm-keel/core/report';
import type { Plan } from '@calm-keel/core/settings';
import { LadderDrawing } from '../drawings/ladder';
import { OneLineDrawing } from '../drawings/one-line';
import { LogSketch } from './log-sketch';
import { Moves } from '../ui/moves';

/** A report as a page: the same pieces that the PDF prints, in the same order. */
@Component({
  selector: 'ck-paper',
  imports: [Moves, LadderDrawing, OneLineDrawing, LogSketch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <article [attr.aria-label]="paper().title">
      <header>
        <h2>{{ paper().title }}</h2>
        @for (line of paper().lines; track $index) {
          <p>{{ line }}</p>
        }
      </header>
      @for (section of paper().sections; track section.id) {
        <section [id]="'part-' + section.id" [class]="section.id">
          <h3>{{ section.title }}</h3>
          @for (block of section.blocks; track $index) {
            @switch (block.kind) {
              @case ('text') {
                <p [class]="block.tone ?? 'plain'">{{ block.text }}</p>
              }
              @case ('heading') {
                <h4>
                  {{ block.text }}
                  @if (block.beside) {
                    <small>{{ block.beside }}</small>
                  }
                </h4>
              }
              @case ('facts') {
                <dl>
                  @for (row of block.rows; track $index) {
                    <dt>{{ row.name }}</dt>
                    <dd [class]="row.tone ?? 'plain'">{{ row.text }}</dd>
                  }
                </dl>
              }
              @case ('list') {
                @if (block.items.length > 0) {
                  <ul>
                    @for (item of block.items; track $index) {
                      <li [class]="item.tone ?? 'plain'">
                        {{ item.text }}
                        @if (item.below) {
                          <small>{{ item.below }}</small>
                        }
                      </li>
                    }
                  </ul>
                } @else if (block.empty) {
                  <p class="quiet">{{ block.empty }}</p>
                }
              }
              @case ('table') {
                @if (block.rows.length > 0) {
                  <div class="scroll" [ckMoves]="section.title + ', table ' + ($index + 1)">
                    <table>
                      <thead>
                        <tr>
                          @for (c of block.columns; track $index) {
                            <th scope="col" [style.width.%]="share(block.columns, $index)">{{ c.head }}</th>
                          }
                        </tr>
                      </thead>
                      <tbody>
                        @for (row of block.rows; track $index) {
                          <tr>
                            @for (cell of row; track $index) {
                              <td [class]="(cell.tone ?? 'plain') + (block.columns[$index]?.figures ? ' fig' : '')">
                                {{ cell.text }}
                                @if (cell.below) {
                                  <small>{{ cell.below }}</small>
                                }
                              </td>
                            }
                          </tr>
                        }
                      </tbody>
                    </table>
                  </div>
                } @else {
                  <p class="quiet">{{ block.empty }}</p>
                }
              }
              @case ('sum') {
                <table class="sum">
                  <caption>
                    {{
                      block.title
                    }}
                  </caption>
                  <tbody>
                    @for (line of block.lines; track $index) {
                      <tr [class]="line.kind">
                        <td>{{ line.words }}</td>
                        <td class="fig">{{ line.figure }}</td>
                      </tr>
                    }
                  </tbody>
                </table>
                @for (source of block.sources; track source) {
                  <p class="source">{{ source }}</p>
                }
              }
              @case ('drawing') {
                <figure>
                  <div class="scroll" inert [attr.data-drawing]="block.drawing">
                    @if (block.drawing === 'oneLine') {
                      <ck-one-line [plan]="plan()" [room]="740" [drawn]="true" [chosen]="nothing" />
                    } @else {
                      <ck-ladder [plan]="plan()" [width]="740" [height]="470" />
                    }
                  </div>
                  <figcaption>{{ block.caption }}</figcaption>
                </figure>
              }
              @case ('log') {
                <figure>
                  <ck-log-sketch [job]="job()" [plan]="plan()" [log]="block.log" />
                  <figcaption>{{ block.caption }}</figcaption>
                </figure>
              }
            }
          }
        </section>
      }
      <footer>{{ paper().foot }}</footer>
    </article>
  `,
  styleUrl: './paper-view.scss',
})
export class PaperView {
  readonly paper = input.required<Paper>();
  readonly job = input.required<Job>();
  readonly plan = input.required<Plan>();
  protected readonly nothing = '-';

  protected share(columns: readonly { readonly share: number }[], index: number): number {
    const all = columns.reduce((sum, c) => sum + c.share, 0);
    return ((columns[index]?.share ?? 0) / all) * 100;
  }
}
