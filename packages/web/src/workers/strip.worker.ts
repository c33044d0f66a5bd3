/**
 * Reads a film through, aside: pictures at even times, and how loud its sound is.
 */
import {
  ALL_FORMATS,
  AudioSampleSink,
  BlobSource,
  EncodedPacketSink,
  Input,
  UrlSource,
  type InputAudioTrack,
  type InputVideoTrack,
} from 'mediabunny';
import type { StripReport, StripRequest } from '../film/strip-messages';
import { picturesAt } from './film-pictures';

/** Sound and times lie among the pictures: a film that would have to be fetched wholly for them has so many bytes at most. */
const FETCHED_WHOLLY = 32 * 1024 * 1024;

const report = (message: StripReport, transfer: Transferable[] = []): void => postMessage(message, { transfer });

async function pictures(track: InputVideoTrack, { duration, pictures: count, height }: StripRequest): Promise<void> {
  const first = await track.getFirstTimestamp();
  const times = Array.from({ length: count }, (_, i) => Math.max(first, (duration * (i + 0.5)) / count));
  let index = 0;
  for await (const shown of picturesAt(track, times, height)) {
    if (shown) {
      const bitmap = await createImageBitmap(shown);
      report({ kind: 'picture', index, bitmap }, [bitmap]);
    }
    index += 1;
  }
}

/** When each frame is shown: what a film says of its frames, whatever order they are kept in. */
async function frameTimes(track: InputVideoTrack): Promise<Float64Array<ArrayBuffer>> {
  const times: number[] = [];
  for await (const { timestamp } of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true }))
    times.push(timestamp);
  return Float64Array.from(times).sort();
}

async function sound(track: InputAudioTrack, { duration, bars }: StripRequest): Promise<Float32Array> {
  const loudest = new Float32Array(bars);
  let plane = new Float32Array(0);
  for await (const sample of new AudioSampleSink(track).samples()) {
    const { numberOfFrames, sampleRate, timestamp } = sample;
    if (plane.length < numberOfFrames) plane = new Float32Array(numberOfFrames);
    // The first channel tells how loud it is.
    sample.copyTo(plane, { planeIndex: 0, format: 'f32-planar' });
    sample.close();
    for (let i = 0; i < numberOfFrames; i += 1) {
      const bar = Math.floor(((timestamp + i / sampleRate) / duration) * bars);
      const loud = Math.abs(plane[i] ?? 0);
      if (loud > (loudest[bar] ?? 1)) loudest[bar] = loud;
    }
  }
  return loudest;
}

async function readThrough(request: StripRequest): Promise<void> {
  const { film } = request;
  const source = typeof film === 'string' ? new UrlSource(new URL(film, location.origin)) : new BlobSource(film);
  const input = new Input({ source, formats: ALL_FORMATS });
  const [video, audio] = [await input.getPrimaryVideoTrack(), await input.getPrimaryAudioTrack()];
  if (video && (await video.canDecode())) await pictures(video, request);
  const isNear = typeof film !== 'string' || (await source.getSize()) <= FETCHED_WHOLLY;
  if (video && isNear) {
    // A film whose times cannot be read is gone through frame by frame all the same.
    const times = await frameTimes(video).catch(() => undefined);
    if (times) report({ kind: 'frames', times }, [times.buffer]);
  }
  const isHeard = audio !== null && isNear && (await audio.canDecode());
  report({ kind: 'sound', bars: isHeard ? await sound(audio, request) : undefined });
}

addEventListener('message', ({ data }: MessageEvent<StripRequest>) => {
  readThrough(data).catch((error: unknown) =>
    report({ kind: 'failed', reason: error instanceof Error ? error.message : String(error) }),
  );
});
