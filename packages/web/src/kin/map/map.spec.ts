import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type cytoscape from 'cytoscape';
import { KinService } from '../../data/kin';
import { KIN, REEF } from '../../testing/kin';
import { signedIn } from '../../testing/knots';
import { KinMapPage } from './map';
import { chooseIn } from '../../testing/choosing';

describe('The kin map', () => {
  let fixture: ComponentFixture<KinMapPage>;
  let page: HTMLElement;

  /** The map as it is drawn, once its layout is there. */
  async function graph(): Promise<cytoscape.Core> {
    for (;;) {
      await fixture.whenStable();
      const found = (fixture.componentInstance as unknown as { graph(): { graph: cytoscape.Core } | undefined }).graph()
        ?.graph;
      if (found) return found;
      await new Promise((done) => setTimeout(done, 50));
    }
  }

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [provideHttpClient(), provideHttpClientTesting(), provideRouter([]), signedIn()],
    });
    TestBed.inject(KinService).load().subscribe();
    TestBed.inject(HttpTestingController).expectOne('/api/kin').flush(KIN);
    fixture = TestBed.createComponent(KinMapPage);
    page = fixture.nativeElement as HTMLElement;
    page.style.cssText = 'display:flex;width:900px;height:600px';
    document.body.append(page);
  });
  afterEach(() => page.remove());

  it('draws every knot once, apart from each other, with a line for what is stated', async () => {
    const map = await graph();
    const knots = map.nodes('.knot');
    expect(knots.length).toBe(TestBed.inject(KinService).nodes().length);
    expect(map.getElementById('pattern:reef').length).toBe(0);
    expect(map.edges('.refuted').length).toBe(1);
    expect(map.edges('.proved').length).toBe(1);
    const boxes = knots.map((n) => n.boundingBox({ includeLabels: false, includeEdges: false }));
    const overlap = boxes.some((a, i) =>
      boxes.slice(i + 1).some((b) => a.x1 < b.x2 && b.x1 < a.x2 && a.y1 < b.y2 && b.y1 < a.y2),
    );
    expect(overlap).toBeFalse();
  });

  it('leaves out what a filter leaves out, and says so when nothing is left', async () => {
    const map = await graph();
    page.querySelector<HTMLInputElement>('input[type="checkbox"]')!.click();
    await fixture.whenStable();
    expect(map.nodes('.knot').not('.out').length).toBe(2);
    await chooseIn(fixture, 'Class', 'stopper');
    expect(map.nodes('.knot').not('.out').length).toBe(0);
    expect(map.nodes('.family').not('.out').length).toBe(0);
    expect(page.textContent).toContain('No knot fits.');
  });

  it('shows the knot that is picked with its neighbours, and lets it go by Escape', async () => {
    const map = await graph();
    await chooseIn(fixture, 'Go to a knot', 'Our reef');
    expect(page.querySelector('aside')?.textContent).toContain('other ends loaded');
    expect(map.getElementById(`knot:${REEF}`).hasClass('picked')).toBeTrue();
    page.querySelector('.board')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    await fixture.whenStable();
    expect(page.querySelector('aside')).toBeNull();
    expect(map.elements('.faded').length).toBe(0);
  });

  it('goes by keys: zooms about its middle, pans, shows all', async () => {
    const map = await graph();
    const press = (key: string): boolean =>
      page.querySelector('.board')!.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }));
    const before = map.zoom();
    expect(press('+')).toBeFalse();
    expect(map.zoom()).toBeGreaterThan(before);
    const x = map.pan().x;
    press('ArrowLeft');
    expect(map.pan().x).toBeCloseTo(x + 80, 3);
    press('0');
    expect(press('x')).toBeTrue();
    const { x1, y1, x2, y2 } = map.elements(':visible').renderedBoundingBox();
    expect(Math.min(x1, y1)).toBeGreaterThan(-1);
    expect(x2).toBeLessThan(map.width() + 1);
    expect(y2).toBeLessThan(map.height() + 1);
  });

  it('shows figures when one comes near', async () => {
    const map = await graph();
    expect(map.nodes('.near').length).toBe(0);
    await chooseIn(fixture, 'Go to a knot', 'Our reef');
    for (let i = 0; i < 40 && map.zoom() < 1.15; i += 1) await new Promise((done) => setTimeout(done, 50));
    expect(map.getElementById(`knot:${REEF}`).hasClass('near')).toBeTrue();
  });
});
