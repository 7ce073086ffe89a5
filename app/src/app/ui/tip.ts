import { Directive, inject } from '@angular/core';
import { NgbTooltip } from '@ng-bootstrap/ng-bootstrap/tooltip';

/** A word about a mark or a button that shows none: after a short rest of the pointer, and at once where the focus comes by the keyboard. */
@Directive({
  selector: '[ckTip]',
  hostDirectives: [{ directive: NgbTooltip, inputs: ['ngbTooltip: ckTip'] }],
})
export class Tip {
  constructor() {
    const tip = inject(NgbTooltip, { self: true });
    tip.container = 'body';
    tip.openDelay = 400;
    tip.animation = false;
  }
}
