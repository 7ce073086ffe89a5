import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ck-spec-page', changeDetection: ChangeDetectionStrategy.OnPush, template: '<section class="sheet"></section><aside class="insp"></aside>' })
export class SpecPage {}
