/**
 * Exporting the demonstration: a worker draws and encodes; this end asks, follows and cancels.
 */
import { Injectable } from '@angular/core';
import { Observable } from 'rxjs';
import type { ExportReport, ExportRequest } from './export-messages';
import { CAPTION_FONT } from './paint-drawing';

/** Address of the caption font's Latin file, as the page's own style sheets have it. */
export function captionFontUrl(): string | undefined {
  for (const sheet of document.styleSheets) {
    for (const rule of sheet.cssRules) {
      if (!(rule instanceof CSSFontFaceRule) || !rule.style.getPropertyValue('font-family').includes(CAPTION_FONT))
        continue;
      if (!/U\+0{0,4}-/i.test(rule.style.getPropertyValue('unicode-range'))) continue;
      const url = /url\("?([^")]+)"?\)/.exec(rule.style.getPropertyValue('src'))?.[1];
      if (url !== undefined) return new URL(url, sheet.href ?? document.baseURI).href;
    }
  }
  return undefined;
}

/** Whether this browser encodes H.264 (high profile) pictures of a size. */
export async function writesMp4(width: number, height: number): Promise<boolean> {
  if (typeof VideoEncoder === 'undefined') return false;
  const asked = { codec: 'avc1.640028', width, height, bitrate: 3e6, framerate: 30 };
  return VideoEncoder.isConfigSupported(asked).then(
    ({ supported }) => supported === true,
    () => false,
  );
}

@Injectable({ providedIn: 'root' })
export class ExportService {
  /** Runs one export; unsubscribing cancels it and leaves nothing behind. */
  run(request: ExportRequest): Observable<ExportReport> {
    return new Observable((subscriber) => {
      const worker = new Worker(new URL('../workers/export.worker', import.meta.url), { type: 'module' });
      worker.onmessage = ({ data }: MessageEvent<ExportReport>): void => {
        subscriber.next(data);
        if (data.kind !== 'progress') subscriber.complete();
      };
      worker.onerror = (event): void => {
        subscriber.next({ kind: 'failed', reason: event.message || 'The export stopped.' });
        subscriber.complete();
      };
      worker.postMessage(request);
      return () => worker.terminate();
    });
  }
}
