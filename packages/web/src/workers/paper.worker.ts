/** Sets a booklet on paper, away from the page: as a PDF. */
import type { Booklet } from '@foxtrail/lesson/booklet';
import { bookletOnPaper, cardsOnPaper, type PaperSize } from '@foxtrail/lesson/booklet-pdf';
import pdfMake from 'pdfmake/build/pdfmake';

export interface PaperOrder {
  readonly booklet: Booklet;
  readonly pictures: ReadonlyMap<string, string>;
  readonly size: PaperSize;
  readonly as: 'booklet' | 'cards';
  /** Addresses of its fonts. */
  readonly fonts: { readonly text: string; readonly bold: string; readonly head: string };
}
export type PaperMade = { readonly share: number } | { readonly pdf: Blob } | { readonly failed: string };

/** How much farther it is before it is said again. */
const SAID_EVERY = 0.02;

async function made({ booklet, pictures, size, as, fonts }: PaperOrder): Promise<Blob> {
  const { text, bold, head } = fonts;
  pdfMake.setFonts({
    Text: { normal: text, bold, italics: text, bolditalics: bold },
    Head: { normal: head, bold: head, italics: head, bolditalics: head },
  });
  let said = 0;
  pdfMake.setProgressCallback((share) => {
    if (share - said < SAID_EVERY) return;
    said = share;
    postMessage({ share } satisfies PaperMade);
  });
  const on = { size, picture: (path: string) => pictures.get(path) };
  return pdfMake.createPdf(as === 'cards' ? cardsOnPaper(booklet, on) : bookletOnPaper(booklet, on)).getBlob();
}

addEventListener('message', ({ data }: MessageEvent<PaperOrder>) => {
  made(data).then(
    (pdf) => postMessage({ pdf } satisfies PaperMade),
    (error: unknown) => postMessage({ failed: String(error) } satisfies PaperMade),
  );
});
