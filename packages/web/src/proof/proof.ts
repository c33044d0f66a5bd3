import { ChangeDetectionStrategy, Component } from '@angular/core';
@Component({ selector: 'ft-proof', changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
export class ProofPage {}
