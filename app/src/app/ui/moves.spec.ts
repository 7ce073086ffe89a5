import { ChangeDetectionStrategy, Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { setUp, until } from '../testing';
import { Moves } from './moves';

@Component({
  selector: 'ck-wide',
  imports: [Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div ckMoves="Figures" style="width: 200px; overflow-x: auto"><p [style.width.px]="width()">x</p></div>`,
})
class Wide {
  readonly width = signal(100);
}

describe('what moves in itself', () => {
  it('is reached by Tab and named only while it is wider than its room', async () => {
    setUp();
    const fixture = TestBed.createComponent(Wide);
    document.body.append(fixture.nativeElement as HTMLElement);
    const div = (fixture.nativeElement as HTMLElement).querySelector('div')!;
    const said = (): (string | null)[] => ['tabindex', 'role', 'aria-label'].map((name) => div.getAttribute(name));
    fixture.detectChanges();
    expect(said()).toEqual([null, null, null]);
    fixture.componentInstance.width.set(300);
    fixture.detectChanges();
    await until(() => {
      fixture.detectChanges();
      return div.hasAttribute('role');
    }, 'it is found wider');
    expect(said()).toEqual(['0', 'region', 'Figures']);
    fixture.componentInstance.width.set(200);
    fixture.detectChanges();
    await until(() => {
      fixture.detectChanges();
      return !div.hasAttribute('role');
    }, 'it is found to fit');
    (fixture.nativeElement as HTMLElement).remove();
  });
});
