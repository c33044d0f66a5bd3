import { pictureWriter } from './moving-picture';

/** Frames of a colour each, as a picture that moves; decoded by the browser where it can, else by the bytes of the format. */
async function written(colours: readonly (string | undefined)[], rate: number): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(20, 10);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const writer = pictureWriter(context, rate);
  for (const [i, colour] of colours.entries()) {
    if (colour !== undefined) {
      context.fillStyle = colour;
      context.fillRect(0, 0, 20, 10);
    }
    await writer.add(i / rate, colour !== undefined);
  }
  return new Uint8Array(await writer.end());
}

/** The delays of a GIF's frames, in hundredths of a second: of each graphic control extension (GIF89a, 23). */
function delays(gif: Uint8Array): number[] {
  const found: number[] = [];
  for (let i = 0; i + 7 < gif.length; i += 1)
    if (gif[i] === 0x21 && gif[i + 1] === 0xf9 && gif[i + 2] === 4 && gif[i + 7] === 0)
      found.push(gif[i + 4]! + 256 * gif[i + 5]!);
  return found;
}

describe('a picture that moves', () => {
  it('is a GIF that any browser shows, repeated for ever', async () => {
    const gif = await written(['#c00000', '#0000c0'], 12.5);
    expect(new TextDecoder().decode(gif.subarray(0, 6))).toBe('GIF89a');
    expect(new TextDecoder().decode(gif)).toContain('NETSCAPE2.0');
    const image = await createImageBitmap(new Blob([gif], { type: 'image/gif' }));
    expect([image.width, image.height]).toEqual([20, 10]);
    const context = new OffscreenCanvas(20, 10).getContext('2d')!;
    context.drawImage(image, 0, 0);
    const [r, g, b] = context.getImageData(5, 5, 1, 1).data;
    expect(Math.abs(r! - 0xc0) + g! + b!).toBeLessThan(24);
  });

  it('shows each frame as long as it was shown: what stays is one frame, and rounding does not add up', async () => {
    expect(delays(await written(['red', 'green', undefined, undefined, 'blue'], 12.5))).toEqual([8, 24, 8]);
    const many = delays(
      await written(
        Array.from({ length: 60 }, (_, i) => (i % 2 ? 'red' : 'blue')),
        30,
      ),
    );
    expect(many.length).toBe(60);
    expect(many.reduce((sum, d) => sum + d, 0)).toBe(200);
  });
});
