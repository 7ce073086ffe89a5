import { inject, Injectable } from '@angular/core';
import { Title } from '@angular/platform-browser';
import { TitleStrategy, type RouterStateSnapshot } from '@angular/router';

/** Names the browser tab after the station: "Settings · Calm Keel". */
@Injectable({ providedIn: 'root' })
export class PageTitle extends TitleStrategy {
  private readonly title = inject(Title);

  override updateTitle(state: RouterStateSnapshot): void {
    this.title.setTitle(`${this.buildTitle(state) ?? 'Jobs'} · Calm Keel`);
  }
}
