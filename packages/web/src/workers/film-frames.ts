/**
 * Frames of the films that a demonstration shows, in the order in which they are shown. Each stretch is read through once: a frame is decoded
 * from the one before it.
 */
import { momentAt, warnsAt, type Moment } from '@foxtrail/core/reel';
import { ALL_FORMATS, Input, UrlSource, type InputVideoTrack } from 'mediabunny';
import { filmAddress } from '../reel/film-address';
import type { FilmPicture, Scene } from '../reel/scene';
import { picturesAt, type FilmCanvas } from './film-pictures';

/** What is shown of a film at a time of the demonstration. */
function filmAt(scene: Scene, time: number): (Moment & { readonly film: string }) | undefined {
  const moment = warnsAt(scene.timeline, time) ? undefined : momentAt(scene.method, scene.timeline, time);
  return moment?.shot.kind === 'film' ? { ...moment, film: moment.shot.film } : undefined;
}

export class FilmFrames {
  private readonly tracks = new Map<string, Promise<InputVideoTrack>>();
  private stretch:
    { readonly part: number; readonly frames: AsyncGenerator<FilmCanvas | undefined, void, void> } | undefined;
  private now: { readonly film: string; readonly picture: FilmPicture } | undefined;

  /** The frame of a film that is shown by now. */
  shown(film: string): FilmPicture | undefined {
    return this.now?.film === film ? this.now.picture : undefined;
  }

  /** Brings what is shown of a film to the time of an index; times are asked for in order. Throws where a film cannot be read. */
  async show(scene: Scene, times: readonly number[], index: number): Promise<void> {
    const moment = filmAt(scene, times[index] ?? 0);
    if (!moment) return;
    if (this.stretch?.part !== moment.part) {
      await this.stretch?.frames.return();
      const track = await this.trackOf(moment.film);
      const ahead = times.slice(index).map((t) => filmAt(scene, t));
      const end = ahead.findIndex((m) => m?.part !== moment.part);
      const wanted = (end < 0 ? ahead : ahead.slice(0, end)).map((m) => m?.at ?? 0);
      this.stretch = { part: moment.part, frames: picturesAt(track, wanted) };
    }
    const { value: image } = await this.stretch.frames.next();
    if (image) this.now = { film: moment.film, picture: { image, width: image.width, height: image.height } };
  }

  private trackOf(film: string): Promise<InputVideoTrack> {
    const known = this.tracks.get(film);
    if (known) return known;
    const opened = (async (): Promise<InputVideoTrack> => {
      const input = new Input({
        source: new UrlSource(new URL(filmAddress(film), location.origin)),
        formats: ALL_FORMATS,
      });
      const track = await input.getPrimaryVideoTrack();
      if (!track || !(await track.canDecode()))
        throw new Error('A film of this reel cannot be decoded by this browser. Take its scene out, or film it again.');
      return track;
    })();
    this.tracks.set(film, opened);
    return opened;
  }
}
