import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NgbActiveOffcanvas } from '@ng-bootstrap/ng-bootstrap/offcanvas';
import { allRoles, roleInfo } from '@calm-keel/core/card';
import { glossaryEnglish, type GlossaryTerm } from '@calm-keel/core/words';

/** What the words mean: found by any word of them, in the order of the work. */
@Component({
  selector: 'ck-glossary-panel',
  host: { class: 'drawer' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="head">
      <h2 id="glossary-title">What the words mean</h2>
      <button type="button" class="ghost" (click)="drawer.dismiss()">Close</button>
    </div>
    <input
      #field
      class="plain"
      type="search"
      aria-label="Find a word"
      placeholder="Find a word"
      autocomplete="off"
      maxlength="40"
      ngbAutofocus
      [value]="sought()"
      (input)="sought.set(field.value)"
    />
    <p class="visually-hidden" role="status">{{ sought().trim() === '' ? '' : count() === 1 ? '1 word' : count() + ' words' }}</p>
    <div class="list" tabindex="0" role="region" aria-label="Words">
      @for (group of groups(); track group.title) {
        <h3>{{ group.title }}</h3>
        <dl>
          @for (term of group.terms; track term.word) {
            <div>
              <dt>{{ term.word }}</dt>
              <dd>{{ term.says }}</dd>
            </div>
          }
        </dl>
      } @empty {
        <p class="quiet">No word here has “{{ sought().trim() }}” in it. Try a shorter part of it.</p>
      }
    </div>
  `,
  styles: `
    input {
      min-height: 44px;
      flex: none;
      width: auto;
      margin: 0 16px;
    }
    .list {
      padding: 0 16px 24px;
    }
    h3 {
      font-size: 0.9062rem;
      font-weight: var(--ck-w-strong);
      border-bottom: 1.5px solid var(--ck-ink);
      padding: 14px 0 4px;
    }
    dl > div {
      padding: 7px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    dt {
      font-weight: 620;
    }
    dd {
      font-size: 0.9062rem;
      line-height: 1.35;
      color: var(--ck-ink-2);
    }
  `,
})
export class GlossaryPanel {
  protected readonly drawer = inject(NgbActiveOffcanvas);
  protected readonly sought = signal('');
  private readonly all = [
    ...glossaryEnglish.groups,
    {
      title: 'What each setting does',
      terms: allRoles.map((role): GlossaryTerm => ({ word: capital(roleInfo[role].name), says: glossaryEnglish.roles[role] })),
    },
  ];
  /** Those that have every word sought; a word that begins so comes before one that only has it in its sentence. */
  protected readonly groups = computed(() => {
    const wanted = this.sought().trim().toLowerCase().split(/\s+/).filter(Boolean);
    const has = ({ word, says }: GlossaryTerm): boolean => wanted.every((part) => `${word} ${says}`.toLowerCase().includes(part));
    const named = ({ word }: GlossaryTerm): number => (wanted.every((part) => word.toLowerCase().includes(part)) ? 0 : 1);
    return this.all
      .map((group) => ({ ...group, terms: group.terms.filter(has).sort((a, b) => (wanted.length === 0 ? 0 : named(a) - named(b))) }))
      .filter((group) => group.terms.length > 0);
  });
  protected readonly count = computed(() => this.groups().reduce((sum, group) => sum + group.terms.length, 0));
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
