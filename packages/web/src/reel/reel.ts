import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ft-reel', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class ReelPage {}
