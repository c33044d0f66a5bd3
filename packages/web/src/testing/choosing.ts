/** Choosing in a select as an author does: it is opened, and one of what it offers is pressed. */
import type { ComponentFixture } from '@angular/core/testing';

export async function chooseIn(fixture: ComponentFixture<unknown>, label: string, name: string): Promise<void> {
  const page = fixture.nativeElement as HTMLElement;
  const select = page.querySelector<HTMLElement>(`mat-select[aria-label="${label}"] .mat-mdc-select-trigger`);
  if (!select) throw new Error(`there is no select “${label}”`);
  select.click();
  await fixture.whenStable();
  const offered = [...document.querySelectorAll<HTMLElement>('mat-option')];
  const option = offered.find((o) => o.textContent.trim() === name);
  if (!option) throw new Error(`“${name}” is not offered, but ${offered.map((o) => o.textContent.trim()).join(', ')}`);
  option.click();
  await fixture.whenStable();
}
