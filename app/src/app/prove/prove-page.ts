import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ck-prove-page', changeDetection: ChangeDetectionStrategy.OnPush, template: '<section class="sheet"></section><aside class="insp"></aside>' })
export class ProvePage {}
