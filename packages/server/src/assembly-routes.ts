/** Routes of assemblies and courses: facts of the knots that they show, and inspections. */
import { ASSEMBLY_ROUTES } from '@foxtrail/contract/assemblies';
import { COURSE_ROUTES } from '@foxtrail/contract/courses';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { coursePublication, publishCourse, withdrawCourse } from './course-publications.js';
import { inspectionsOf, recordInspection } from './inspections.js';
import { factsOf, keptFacts } from './knot-facts.js';
import { LessonReader } from './lesson-facts.js';
import { notFound } from './problem.js';
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
  const known = async (id: string): Promise<void> => {
    const found = await pool.query('select 1 from course where id = $1', [id]);
    if (found.rowCount === 0) throw notFound('course');
  };
  desk.serve(COURSE_ROUTES.publication, async ({ parameters: { kept: id } }) => {
    await known(id);
    return { publication: await coursePublication(pool, id) };
  });
  desk.serve(COURSE_ROUTES.publish, ({ parameters: { kept: id }, account, body: { revision } }) =>
    publishCourse(pool, account, id, revision, { lessons, knots: kept }),
  );
  desk.serve(COURSE_ROUTES.withdraw, async ({ parameters: { kept: id } }) => {
    await known(id);
    await withdrawCourse(pool, id);
  });
  return desk.routes;
}
