/**
 * The truth of footage, by an entrance of its own: what judges no film need not load it.
 */
export * from './footage/contents.js';
export * from './footage/followed.js';
export * from './footage/frame.js';
export * from './footage/judge.js';
export * from './footage/on-film.js';
export * from './footage/played.js';
export * from './footage/say.js';
export { marksFileSchema, readMarksText, MARKS_FORMAT, type MarksFile } from './formats/marks-file.js';
