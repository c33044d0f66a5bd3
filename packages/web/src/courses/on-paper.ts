/** Has a booklet set on paper by a worker; who lets go of it stops the work. */
import bold from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff' with {
  loader: 'file',
};
import text from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff' with {
  loader: 'file',
};
import head from '@fontsource/fraunces/files/fraunces-latin-600-normal.woff' with { loader: 'file' };
import { Observable } from 'rxjs';
import type { PaperMade, PaperOrder } from '../workers/paper.worker';

/** `told` is told the share that is set. */
export const onPaper = (order: Omit<PaperOrder, 'fonts'>, told: (share: number) => void): Observable<Blob> =>
  new Observable((done) => {
    const worker = new Worker(new URL('../workers/paper.worker', import.meta.url), { type: 'module' });
    const whole = (address: string): string => new URL(address, document.baseURI).href;
    worker.onmessage = ({ data }: MessageEvent<PaperMade>): void => {
      if ('share' in data) told(data.share);
      else if ('failed' in data) done.error(new Error(data.failed));
      else {
        done.next(data.pdf);
        done.complete();
      }
    };
    worker.onerror = (): void => done.error(new Error('The pages could not be set.'));
    worker.postMessage({ ...order, fonts: { text: whole(text), bold: whole(bold), head: whole(head) } });
    return () => worker.terminate();
  });
