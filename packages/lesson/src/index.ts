export { html, raw, Html } from './html.js';
export { FigureWriter, lookStyle, PAGE_LOOK, type FigureMark } from './figure.js';
export { inspectionCard } from './parts.js';
export { firstShown, lessonHtml, queryOf, type LessonData, type Shown } from './lesson.js';
export { practicePage } from './practice.js';
export { knotPage, listPage, missingPage, type PublishedList } from './pages.js';
export { pageStyle, type PageFrame } from './page-frame.js';
export { layPage, mayBeLaid } from './lay.js';
export { mayBeTraced, yoursPage } from './yours.js';
export {
  courseBar,
  coursePage,
  courseRigPage,
  placeInCourse,
  type CourseOnPages,
  type CoursePlace,
} from './courses.js';
