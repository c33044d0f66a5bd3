import { TestBed } from '@angular/core/testing';
import type { StepPace } from '@foxtrail/core/reel';
import { PaceMeter } from './pace-meter';

const pace = (step: number, crossings: number, reading: number, speaking = 0): StepPace => ({
  part: step,
  step,
  start: 3 * step,
  end: 3 * step + 3,
  crossings,
  reading,
  speaking,
});

describe('The pace meter', () => {
  const until = async (there: () => boolean): Promise<void> => {
    for (let k = 0; k < 1000 && !there(); k += 1) await new Promise((done) => setTimeout(done, 20));
  };

  it('draws a bar for each step and each limit once it is opened, and says how many steps pass one', async () => {
    const fixture = TestBed.createComponent(PaceMeter);
    const page = fixture.nativeElement as HTMLElement;
    page.style.width = '800px';
    page.style.setProperty('--moss', '#2f6b4f');
    page.style.setProperty('--plum', '#7c2752');
    document.body.append(page);
    fixture.componentRef.setInput('paces', [pace(0, 1, 10), pace(1, 4, 12), pace(2, 0, 30)]);
    fixture.componentRef.setInput('limits', { crossings: 2, reading: 17, speaking: 160 });
    await fixture.whenStable();
    expect(page.querySelector('summary')?.textContent).toContain('2 steps are quicker');
    expect(page.querySelector('svg')).toBeNull();
    page.querySelector('details')!.open = true;
    const bars = (): SVGPathElement[] => [...page.querySelectorAll<SVGPathElement>('.bars .point path')];
    await until(() => bars().length >= 6);
    expect(bars().length).toBe(6);
    const fills = bars().map((b) => getComputedStyle(b).fill);
    // What passes a limit is of another colour.
    expect([fills[0] === fills[1], fills[0] === fills[2], fills[3] === fills[5], fills[3] === fills[4]]).toEqual([
      false,
      true,
      false,
      true,
    ]);
    expect([...page.querySelectorAll('td')].map((d) => d.textContent.trim())).toEqual([
      '1.0',
      '10',
      '4.0',
      '12',
      '0.0',
      '30',
    ]);
    fixture.componentRef.setInput('paces', [pace(0, 1, 10)]);
    await fixture.whenStable();
    await until(() => bars().length === 2);
    expect(bars().length).toBe(2);
    expect(page.querySelector('.over')).toBeNull();
    // Where somebody speaks, that is measured, too.
    fixture.componentRef.setInput('paces', [pace(0, 1, 10, 150), pace(1, 1, 10, 190)]);
    await fixture.whenStable();
    await until(() => bars().length === 6);
    expect(page.querySelector('.over')?.textContent).toContain('1 step is');
    expect([...page.querySelectorAll('th[scope=col]')].at(-1)?.textContent).toContain(
      'Words spoken a minute, at most 160',
    );
    page.remove();
    fixture.destroy();
  });
});
