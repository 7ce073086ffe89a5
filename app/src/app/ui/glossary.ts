import { inject, Injectable, Injector } from '@angular/core';
import { Router } from '@angular/router';
import { isLostPart } from '../data/lost-part';
import { Updates } from '../data/updates';

/** Opens what the words mean, in a drawer over any view; loaded when it is first wanted. */
@Injectable({ providedIn: 'root' })
export class Glossary {
  private readonly injector = inject(Injector);
  private opened = false;

  /** Opens it, unless it is open; the focus goes back to where it was when it closes. */
  async open(): Promise<void> {
    if (this.opened) return;
    this.opened = true;
    try {
      const [{ NgbOffcanvas }, { GlossaryPanel }] = await Promise.all([import('@ng-bootstrap/ng-bootstrap/offcanvas'), import('./glossary-panel')]);
      const drawer = this.injector.get(NgbOffcanvas).open(GlossaryPanel, { position: 'end', animation: false, ariaLabelledBy: 'glossary-title' });
      await drawer.result.catch(() => undefined);
    } catch (error) {
      if (!isLostPart(error)) throw error;
      this.injector.get(Updates).noteLost(error, this.injector.get(Router).url);
    } finally {
      this.opened = false;
    }
  }
}
