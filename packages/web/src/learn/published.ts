import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ft-published', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class PublishedPage {}
