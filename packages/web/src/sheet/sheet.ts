import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ft-sheet', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class SheetPage {}
