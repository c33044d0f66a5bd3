/** Routes of assemblies and courses: facts of the knots that they show, and inspections. */
import { ASSEMBLY_ROUTES } from '@foxtrail/contract/assemblies';
import { COURSE_ROUTES } from '@foxtrail/contract/courses';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { inspectionsOf, recordInspection } from './inspections.js';
import { factsOf, keptFacts } from './knot-facts.js';
import { LessonReader } from './lesson-facts.js';
import { Desk } from './serve.js';

export function assemblyRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  const kept = keptFacts();
  const lessons = new LessonReader();
  desk.serve(ASSEMBLY_ROUTES.facts, async ({ body: { refs } }) => ({ facts: await factsOf(pool, kept, refs) }));
  desk.serve(COURSE_ROUTES.facts, async ({ body: { refs } }) => ({ facts: await lessons.factsOf(pool, refs) }));
  desk.serve(ASSEMBLY_ROUTES.inspections, async ({ query: { assembly } }) => ({
    inspections: await inspectionsOf(pool, assembly),
  }));
  desk.serve(ASSEMBLY_ROUTES.inspect, ({ parameters: { kept: id }, account, body }) =>
    recordInspection(pool, id, account.name, body),
  );
  return desk.routes;
}
