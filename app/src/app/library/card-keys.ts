import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { Card } from '@calm-keel/core/card';
import { TextField } from '../ui/text-field';
import type { CardEdit } from './card-edit';

const texts = [
  { key: 'how', label: 'To save' },
  { key: 'proof', label: 'Seen saved' },
] as const;

/** The keys of a device, what saves on it, and what has power while it is set. */
@Component({
  selector: 'ck-card-keys',
  imports: [TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = card();
    <div class="sech"><span role="heading" aria-level="2">At the device</span></div>
    @if (editable()) {
      <div class="fields">
        @for (text of texts; track text.key) {
          <ck-text-field
            [late]="true"
            [label]="text.label"
            [max]="200"
            [value]="c.commit[text.key]"
            (changed)="put(text.label, { commit: withText(text.key, $event) })"
          />
        }
        <ck-text-field
          [late]="true"
          label="Powered while it is set"
          [max]="160"
          [value]="c.programming.powered"
          (changed)="put('What is powered', { programming: { ...c.programming, powered: $event } })"
        />
      </div>
      <ul class="keys" aria-label="Its keys">
        @for (key of c.keys; track $index; let i = $index) {
          <li>
            <ck-text-field [late]="true" class="name" [label]="'Key ' + (i + 1)" [value]="key.key" (changed)="changeKey(i, { key: $event })" />
            <ck-text-field [late]="true" [label]="'Key ' + (i + 1) + ' does'" [max]="160" [value]="key.does" (changed)="changeKey(i, { does: $event })" />
            <ck-text-field
              [late]="true"
              [label]="'Key ' + (i + 1) + ', second meaning'"
              [max]="160"
              empty="none"
              [value]="key.alsoDoes ?? ''"
              (changed)="changeKey(i, { alsoDoes: $event.trim() === '' ? undefined : $event })"
            />
            <button type="button" class="do" (click)="removeKey(i)" [attr.aria-label]="'Remove key ' + (i + 1)">Remove</button>
          </li>
        }
      </ul>
      @if (c.keys.length < 12) {
        <button type="button" class="do" (click)="addKey()">Add a key</button>
      }
    } @else {
      <dl>
        @for (text of texts; track text.key) {
          <dt>{{ text.label }}</dt>
          <dd>{{ c.commit[text.key] }}</dd>
        }
        <dt>Powered while it is set</dt>
        <dd>{{ c.programming.powered }}</dd>
        @for (key of c.keys; track $index) {
          <dt>
            <kbd>{{ key.key }}</kbd>
          </dt>
          <dd>
            {{ key.does }}
            @if (key.alsoDoes) {
              <b>{{ key.alsoDoes }}</b>
            }
          </dd>
        }
      </dl>
    }
  `,
  styleUrl: './card-part.scss',
  styles: `
    .keys li {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 6px 10px;
      align-items: end;
      padding: 8px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
  `,
})
export class CardKeys {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  protected readonly texts = texts;

  protected withText(key: 'how' | 'proof', text: string): Card['commit'] {
    return { ...this.card().commit, [key]: text };
  }

  protected put(label: string, change: Partial<Card>): void {
    this.edited.emit({ label, card: { ...this.card(), ...change } });
  }

  protected changeKey(index: number, change: Partial<Card['keys'][number]>): void {
    this.put('Keys', { keys: this.card().keys.map((k, i) => (i === index ? { ...k, ...change } : k)) });
  }

  protected addKey(): void {
    this.put('Add a key', { keys: [...this.card().keys, { key: `Key ${this.card().keys.length + 1}`, does: 'not known' }] });
  }

  protected removeKey(index: number): void {
    this.put('Remove a key', { keys: this.card().keys.filter((_, i) => i !== index) });
  }
}
