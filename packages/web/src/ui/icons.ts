/**
 * Icons shipped with the application: single paths, registered by name.
 */
import { inject, Injectable } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import {
  mdiAccountCircleOutline,
  mdiAlertCircleOutline,
  mdiArchiveOutline,
  mdiArrowCollapseAll,
  mdiArrowUp,
  mdiBookOpenVariantOutline,
  mdiCheckCircleOutline,
  mdiCloseCircleOutline,
  mdiContentCopy,
  mdiDeleteOutline,
  mdiDotsVertical,
  mdiDownload,
  mdiEyeOutline,
  mdiFilePlusOutline,
  mdiFlagOutline,
  mdiGesture,
  mdiHistory,
  mdiKeyboardOutline,
  mdiMagnify,
  mdiMenu,
  mdiMinus,
  mdiPause,
  mdiPencilOutline,
  mdiPlay,
  mdiPlus,
  mdiRecordCircleOutline,
  mdiRedo,
  mdiRestore,
  mdiSkipNext,
  mdiSkipPrevious,
  mdiSwapVertical,
  mdiThemeLightDark,
  mdiUndo,
  mdiUpload,
  mdiVectorPolyline,
} from '@mdi/js';

const ICONS = {
  record: mdiRecordCircleOutline,
  account: mdiAccountCircleOutline,
  alert: mdiAlertCircleOutline,
  archive: mdiArchiveOutline,
  fit: mdiArrowCollapseAll,
  earlier: mdiArrowUp,
  words: mdiBookOpenVariantOutline,
  ok: mdiCheckCircleOutline,
  close: mdiCloseCircleOutline,
  copy: mdiContentCopy,
  remove: mdiDeleteOutline,
  more: mdiDotsVertical,
  menu: mdiMenu,
  download: mdiDownload,
  view: mdiEyeOutline,
  file: mdiFilePlusOutline,
  flag: mdiFlagOutline,
  lay: mdiGesture,
  history: mdiHistory,
  keys: mdiKeyboardOutline,
  search: mdiMagnify,
  minus: mdiMinus,
  pause: mdiPause,
  edit: mdiPencilOutline,
  play: mdiPlay,
  plus: mdiPlus,
  redo: mdiRedo,
  restore: mdiRestore,
  next: mdiSkipNext,
  previous: mdiSkipPrevious,
  swap: mdiSwapVertical,
  theme: mdiThemeLightDark,
  undo: mdiUndo,
  upload: mdiUpload,
  points: mdiVectorPolyline,
} as const;

@Injectable({ providedIn: 'root' })
export class Icons {
  constructor() {
    const registry = inject(MatIconRegistry);
    const sanitizer = inject(DomSanitizer);
    for (const [name, path] of Object.entries(ICONS)) {
      registry.addSvgIconLiteral(
        name,
        sanitizer.bypassSecurityTrustHtml(`<svg viewBox="0 0 24 24"><path d="${path}"/></svg>`),
      );
    }
  }
}
