/**
 * What is heard of a demonstration, of its films and of who speaks over it: mixed on the page, where sound can be decoded, for the export to encode.
 */
import type { Shot, Timeline } from '@foxtrail/core/reel';
import type { MixedSound } from './export-messages';
import { filmAddress } from './film-address';

export const SOUND_RATE = 48_000;
const CHANNELS = 2;

/** A piece of a film that is heard: when in the demonstration, from where in the film, and how quick, all in seconds. */
interface Heard {
  readonly film: string;
  readonly start: number;
  readonly from: number;
  readonly lasts: number;
  readonly speed: number;
  /** How loud: 1 as it was taken. */
  readonly loud: number;
}

/** How loud a film is while somebody speaks over it. */
export const BENEATH_VOICE = 0.2;

/** What is heard of films and voices, in order; where a film stands still it is silent. */
export function heardIn({ scenes }: Timeline): readonly Heard[] {
  const spoken = new Set(scenes.flatMap(({ voice, part }) => (voice ? [part] : [])));
  return scenes.flatMap(({ shot, start, part, voice }): Heard[] => [
    ...(voice ? [{ film: voice.sound, start, from: voice.from, lasts: voice.to - voice.from, speed: 1, loud: 1 }] : []),
    ...(shot.kind === 'film' ? ofFilm(shot, start, spoken.has(part) ? BENEATH_VOICE : 1) : []),
  ]);
}

const ofFilm = ({ film, pieces }: Extract<Shot, { kind: 'film' }>, start: number, loud: number): Heard[] =>
  pieces
    .filter((p) => p.to > p.from)
    .map((p) => ({
      film,
      start: start + p.start,
      from: p.from,
      lasts: p.end - p.start,
      speed: (p.to - p.from) / (p.end - p.start),
      loud,
    }));

/** Softer than this is silence. */
const SILENCE = 1e-4;

/** What is heard from one time to another, in seconds; nothing where that is silent. */
export function soundWithin(
  { rate, channels }: MixedSound,
  [from, to]: readonly [number, number],
): MixedSound | undefined {
  const cut = channels.map((c) => c.slice(Math.round(from * rate), Math.round(to * rate)));
  return cut.some((c) => c.some((v) => Math.abs(v) > SILENCE)) ? { rate, channels: cut } : undefined;
}

/** The sound of a film; nothing where it has none that can be decoded. Throws where it cannot be fetched. */
async function soundOf(film: string, stop: AbortSignal): Promise<AudioBuffer | undefined> {
  const answer = await fetch(filmAddress(film), { signal: stop });
  if (!answer.ok)
    throw new Error('A film or a voice of this reel cannot be fetched. Look at its scenes, then try again.');
  const decoder = new OfflineAudioContext(CHANNELS, 1, SOUND_RATE);
  return decoder.decodeAudioData(await answer.arrayBuffer()).catch(() => undefined);
}

/** What is heard in a demonstration; nothing where no film of it sounds. */
export async function mixedSound(timeline: Timeline, stop: AbortSignal): Promise<MixedSound | undefined> {
  const heard = heardIn(timeline);
  const films = new Map<string, AudioBuffer>();
  for (const film of new Set(heard.map((h) => h.film))) {
    const sound = await soundOf(film, stop);
    if (sound) films.set(film, sound);
  }
  if (films.size === 0) return undefined;
  const mix = new OfflineAudioContext(CHANNELS, Math.ceil(timeline.duration * SOUND_RATE), SOUND_RATE);
  for (const { film, start, from, lasts, speed, loud } of heard) {
    const buffer = films.get(film);
    if (!buffer || from >= buffer.duration) continue;
    const source = new AudioBufferSourceNode(mix, { buffer, playbackRate: speed });
    source.connect(new GainNode(mix, { gain: loud })).connect(mix.destination);
    source.start(start, from, lasts * speed);
  }
  const mixed = await mix.startRendering();
  return {
    rate: SOUND_RATE,
    channels: Array.from({ length: mixed.numberOfChannels }, (_, i) => mixed.getChannelData(i)),
  };
}
