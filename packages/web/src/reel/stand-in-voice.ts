/**
 * The stand-in for a voice, where there is nobody to speak or no microphone: a tone for each word of a text, as a stream of sound, so that it
 * is recorded as any voice is.
 */
import { standInWords } from '@foxtrail/core/reel';

/** How loud the tones are, how softly they begin and end, in seconds, and what they are filtered about, in hertz: it is no plain beep. */
const LOUD = 0.25;
const SOFT = 0.03;
const FILTER = 700;
/** What is still recorded after the last word, in seconds. */
const AFTER = 0.4;

export interface StandInVoice {
  readonly stream: MediaStream;
  /** Begins to speak. */
  readonly begin: () => void;
  readonly stop: () => void;
}

/** Sets the stand-in up for a text; `ended` is told when all is said. */
export function standInVoice(text: string, ended: () => void): StandInVoice {
  const sound = new AudioContext();
  const heard = sound.createMediaStreamDestination();
  const words = standInWords(text);
  const filter = new BiquadFilterNode(sound, { type: 'lowpass', frequency: FILTER });
  filter.connect(heard);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const say = (now: number): void => {
    for (const { at, lasts, hertz } of words) {
      const tone = new OscillatorNode(sound, { type: 'sawtooth', frequency: hertz });
      const loud = new GainNode(sound, { gain: 0 });
      const [from, to] = [now + at, now + at + lasts];
      const soft = Math.min(SOFT, lasts / 3);
      loud.gain.setValueAtTime(0, from);
      loud.gain.linearRampToValueAtTime(LOUD, from + soft);
      loud.gain.setValueAtTime(LOUD, to - soft);
      loud.gain.linearRampToValueAtTime(0, to);
      tone.connect(loud).connect(filter);
      tone.start(from);
      tone.stop(to);
    }
  };
  return {
    stream: heard.stream,
    begin: () => {
      // Where the page may make no sound, it stays silent, and that is said of what was recorded.
      sound.resume().catch(() => undefined);
      say(sound.currentTime);
      const last = words.at(-1);
      timer = setTimeout(ended, 1000 * ((last ? last.at + last.lasts : 1) + AFTER));
    },
    stop: () => {
      clearTimeout(timer);
      for (const track of heard.stream.getTracks()) track.stop();
      void sound.close();
    },
  };
}
