/**
 * The demonstration, by an entrance of its own: what shows no film need not load it.
 */
export * from '../form/on-its-way.js';
export { MARK_RADIUS, marksOn } from '../form/marked.js';
export * from './timeline.js';
export * from './score.js';
export * from './shot-list.js';
export * from './pointed.js';
export { splitScene } from './split-scene.js';
export { cameraAt, shownBox, stepCamera, tiedBox, wrongCamera, FILLS, type Size } from './camera.js';
export * from './in-sight.js';
export { drawRelaid, type Relaying } from './relaid.js';
export * from './script.js';
export * from './voice.js';
export * from './captions.js';
export * from './film-captions.js';
export * from './cleaning.js';
export * from './watching.js';
export * from './tail-ruler.js';
export { fitted } from './fit.js';
export * from './stand-in.js';
