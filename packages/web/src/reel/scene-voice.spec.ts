import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { By } from '@angular/platform-browser';
import type { Voice } from '@foxtrail/core';
import { loudness, standInWords } from '@foxtrail/core/reel';
import { FilmSending } from '../film/sending';
import { Icons } from '../ui/icons';
import { Select } from '../ui/select';
import { SceneVoice } from './scene-voice';
import { SOUND_RATE } from './film-sound';

const WORDS = 'Round behind the standing part.';
const until = async (there: () => unknown): Promise<void> => {
  for (let k = 0; k < 500 && !there(); k += 1) await new Promise((done) => setTimeout(done, 20));
};

/** The panel of a scene; what is sent is kept in the list. */
function panel(said = WORDS): {
  readonly fixture: ComponentFixture<SceneVoice>;
  readonly sent: Blob[];
  readonly spoken: (Voice | undefined)[];
  readonly speaks: boolean[];
} {
  const sent: Blob[] = [];
  TestBed.inject(Icons);
  const fixture = TestBed.createComponent(SceneVoice);
  const sending = fixture.debugElement.injector.get(FilmSending);
  spyOn(sending, 'send').and.callFake(({ file }) => {
    sent.push(file);
    return Promise.resolve(true);
  });
  fixture.componentRef.setInput('said', said);
  fixture.componentRef.setInput('mayWrite', true);
  const spoken: (Voice | undefined)[] = [];
  const speaks: boolean[] = [];
  fixture.componentInstance.spoken.subscribe((v) => spoken.push(v));
  fixture.componentInstance.speaks.subscribe((v) => speaks.push(v));
  fixture.detectChanges();
  return { fixture, sent, spoken, speaks };
}
type Panel = ReturnType<typeof panel>;
const inside = ({ fixture }: Panel): HTMLElement => {
  fixture.detectChanges();
  return fixture.nativeElement as HTMLElement;
};
const press = (own: Panel, name: string): void =>
  [...inside(own).querySelectorAll('button')].find((b) => b.textContent.trim() === name)!.click();
const says = (own: Panel): string => inside(own).querySelector('[role=alert]')?.textContent ?? '';
const byStandIn = ({ fixture }: Panel): void =>
  fixture.debugElement.query(By.directive(Select)).triggerEventHandler('valueChange', 'stand-in');

describe('a voice over a scene', () => {
  it('is recorded by the stand-in as by a microphone, while the scene plays: as long as its words take, silence cut off', async () => {
    const own = panel();
    byStandIn(own);
    press(own, 'Record');
    await until(() => own.spoken.length > 0 || says(own) !== '');
    expect(says(own)).toBe('');
    expect(own.speaks).toEqual([true, false]);
    const [voice] = own.spoken;
    const words = standInWords(WORDS);
    const said = words.at(-1)!.at + words.at(-1)!.lasts - words[0]!.at;
    expect(voice!.sound).toMatch(/^[0-9a-f]{64}$/);
    expect(voice!.to - voice!.from).toBeGreaterThan(said - 0.5);
    expect(voice!.to - voice!.from).toBeLessThan(said + 1);
    // What was sent sounds where it is said to, and is silent before.
    const decoder = new OfflineAudioContext(1, 1, SOUND_RATE);
    const sound = await decoder.decodeAudioData(await own.sent[0]!.arrayBuffer());
    expect(sound.duration).toBeGreaterThan(voice!.to - 0.05);
    const loud = (from: number, to: number): number =>
      loudness(sound.getChannelData(0).subarray(Math.round(from * SOUND_RATE), Math.round(to * SOUND_RATE)));
    expect(loud(voice!.from, voice!.to)).toBeGreaterThan(-40);
  });

  it('is not kept where nothing is heard, and that is said', async () => {
    const own = panel();
    const sound = new AudioContext();
    const silent = sound.createMediaStreamDestination();
    const source = new ConstantSourceNode(sound, { offset: 0 });
    source.connect(silent);
    source.start();
    spyOn(navigator.mediaDevices, 'getUserMedia').and.resolveTo(silent.stream);
    press(own, 'Record');
    await new Promise((done) => setTimeout(done, 900));
    press(own, 'Stop and keep it');
    await until(() => says(own));
    expect(says(own)).toContain('Nothing is heard');
    expect(own.spoken).toEqual([]);
    expect(own.sent).toEqual([]);
    await sound.close();
  });

  it('says what is wrong with a microphone, and is thrown away without a trace', async () => {
    const own = panel();
    const asked = spyOn(navigator.mediaDevices, 'getUserMedia').and.rejectWith(new DOMException('', 'NotAllowedError'));
    press(own, 'Record');
    await until(() => says(own));
    expect(says(own)).toContain('may not use the microphone');
    expect(own.speaks).toEqual([]);
    asked.and.callThrough();
    byStandIn(own);
    press(own, 'Record');
    await until(() => own.speaks.length > 0);
    press(own, 'Throw it away');
    await until(() => own.speaks.length > 1);
    expect(own.speaks).toEqual([true, false]);
    expect(own.spoken).toEqual([]);
  });
});
