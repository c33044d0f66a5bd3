/**
 * The OpenAPI 3.1 document, generated from the contract.
 */
import { problemSchema, type Route } from '@foxtrail/contract';
import { ROUTES } from '@foxtrail/contract/routes';
import * as z from 'zod';

const schemaOf = (type: z.ZodType, io: 'input' | 'output'): Record<string, unknown> => {
  const { $schema: _, ...schema } = z.toJSONSchema(type, { io, unrepresentable: 'any' }) as Record<string, unknown>;
  return schema;
};

const json = (type: z.ZodType, io: 'input' | 'output'): Record<string, unknown> => ({
  'application/json': { schema: schemaOf(type, io) },
});

function operation(route: Route): Record<string, unknown> {
  const names = [...route.path.matchAll(/\{(\w+)\}/g)].map((m) => m[1] as string);
  const parameters: Record<string, unknown>[] = names.map((name) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  for (const [name, type] of Object.entries(route.query?.shape ?? {})) {
    parameters.push({ name, in: 'query', required: false, schema: schemaOf(type as z.ZodType, 'input') });
  }
  const answers: Record<string, unknown> = {
    '2XX': {
      description: route.summary,
      ...(route.answer
        ? { content: json(route.answer, 'output') }
        : route.media
          ? { content: { [route.media]: {} } }
          : {}),
    },
  };
  for (const status of [...(route.refusals ?? []), ...(route.costly ? [429] : [])])
    answers[String(status)] = {
      description: 'Refused, with place, reason and remedy',
      content: json(problemSchema, 'output'),
    };
  return {
    summary: route.summary,
    parameters,
    ...(route.body ? { requestBody: { required: true, content: json(route.body, 'input') } } : {}),
    responses: answers,
    security: route.access === 'anyone' ? [] : [{ session: [] }],
  };
}

export function openApi(): Record<string, unknown> {
  const paths: Record<string, Record<string, unknown>> = {};
  for (const route of ROUTES) (paths[route.path] ??= {})[route.method] = operation(route);
  return {
    openapi: '3.1.0',
    info: { title: 'Fox Trail', version: '1', description: 'The workshop of a knot instruction author.' },
    paths,
    components: { securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'foxtrail_session' } } },
  };
}
