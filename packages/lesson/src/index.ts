export { html, raw, Html } from './html.js';
export { FigureWriter, lookStyle, PAGE_LOOK, type FigureMark } from './figure.js';
export { inspectionCard } from './parts.js';
export { firstShown, lessonHtml, queryOf, type LessonData, type Shown } from './lesson.js';
export { knotPage, listPage, missingPage, pageStyle, type PageFrame, type PublishedList } from './pages.js';
