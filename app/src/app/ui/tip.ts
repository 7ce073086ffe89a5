import { Directive, inject } from '@angular/core';
import { NgbTooltip } from '@ng-bootstrap/ng-bootstrap/tooltip';

/** A word about a mark or a button that shows none: after a short rest of the pointer, and at once where the focus comes by the keyboard. */
@Directive({
  selector: '[ckTip]',
  hostDirectives: [{ directive: NgbTooltip, inputs: ['ngbTooltip: ckTip'] }],
  host: { '(pointerenter)': 'by($event)' },
})
export class Tip {
  private readonly tip = inject(NgbTooltip, { self: true });

  constructor() {
    this.tip.container = 'body';
    this.tip.openDelay = 400;
    this.tip.animation = false;
  }

  /** A finger does not rest: after its tap the word would cover what it wants to see. */
  protected by(event: PointerEvent): void {
    this.tip.disableTooltip = event.pointerType === 'touch';
  }
}
