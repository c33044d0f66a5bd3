/**
 * Pictures of a film at times in order. A film that was drawn on a canvas may carry how transparent it is: that is left out, as what lies
 * behind it would be nothing.
 */
import {
  CanvasSink,
  EncodedPacketSink,
  type EncodedPacket,
  type InputVideoTrack,
  type WrappedCanvas,
} from 'mediabunny';

export type FilmCanvas = WrappedCanvas['canvas'];

/** The picture of a film at each of some times, in order but for what is played once more; nothing where there is none by then. It holds until the next is asked for. */
export async function* picturesAt(
  track: InputVideoTrack,
  times: readonly number[],
  height?: number,
): AsyncGenerator<FilmCanvas | undefined, void, void> {
  const first = await new EncodedPacketSink(track).getFirstPacket();
  if (first?.sideData.alpha) {
    yield* opaquePictures(track, times, height);
    return;
  }
  const sink = new CanvasSink(track, { poolSize: 2, ...(height === undefined ? {} : { height }) });
  for await (const shown of sink.canvasesAtTimestamps([...times])) yield shown?.canvas;
}

/** More seconds than this ahead, a film is read from its next key frame on. */
const FAR = 2;

async function* opaquePictures(
  track: InputVideoTrack,
  times: readonly number[],
  height: number | undefined,
): AsyncGenerator<FilmCanvas | undefined, void, void> {
  const packets = new EncodedPacketSink(track);
  const config = await track.getDecoderConfig();
  if (!config) throw new Error('The film cannot be decoded by this browser.');
  const ready: VideoFrame[] = [];
  let broken: DOMException | undefined;
  const decoder = new VideoDecoder({
    output: (frame) => ready.push(frame),
    error: (error) => (broken = error),
  });
  let now: VideoFrame | undefined;
  let next: EncodedPacket | null = null;
  let begun = false;
  let before = -Infinity;
  let flushed = false;
  const letGo = (frames: VideoFrame[]): void => frames.splice(0).forEach((f) => f.close());
  const canvas = new OffscreenCanvas(1, 1);
  try {
    for (const time of times) {
      const wanted = 1e6 * time;
      const goesBack = time < before - 1e-6;
      before = time;
      if (!begun || goesBack || (next && time - next.timestamp > FAR)) {
        if (begun) decoder.reset();
        if (goesBack) {
          now?.close();
          now = undefined;
        }
        decoder.configure(config);
        letGo(ready);
        next = (await packets.getKeyPacket(time)) ?? (await packets.getFirstPacket());
        begun = true;
        flushed = false;
      }
      // The frame of a time is known once a later one has come, or none is left.
      while (!(ready.at(-1) && ready.at(-1)!.timestamp > wanted)) {
        if (broken) throw broken;
        if (next) {
          decoder.decode(next.toEncodedVideoChunk());
          next = await packets.getNextPacket(next);
          await settled(decoder);
        } else if (!flushed) {
          flushed = true;
          await decoder.flush();
        } else break;
      }
      while (ready[0] && ready[0].timestamp <= wanted) {
        now?.close();
        now = ready.shift();
      }
      const shown: VideoFrame | undefined = now ?? ready[0];
      if (!shown) {
        yield undefined;
        continue;
      }
      const scale = height === undefined ? 1 : height / shown.displayHeight;
      const [w, h] = [Math.round(shown.displayWidth * scale), Math.round(shown.displayHeight * scale)];
      if (canvas.width !== w || canvas.height !== h) [canvas.width, canvas.height] = [w, h];
      canvas.getContext('2d', { alpha: false })?.drawImage(shown, 0, 0, w, h);
      yield canvas;
    }
  } finally {
    now?.close();
    letGo(ready);
    if (decoder.state !== 'closed') decoder.close();
  }
}

/** Few frames are kept in wait. A decoder that breaks says no more: it is asked. */
const settled = async (decoder: VideoDecoder): Promise<void> => {
  while (decoder.state === 'configured' && decoder.decodeQueueSize > 2)
    await new Promise((done) => setTimeout(done, 1));
};
