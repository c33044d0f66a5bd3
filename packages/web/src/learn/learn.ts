import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ft-learn', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class LearnPage {}
