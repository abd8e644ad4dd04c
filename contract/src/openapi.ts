import { extendZodWithOpenApi, OpenApiGeneratorV31, OpenAPIRegistry } from '@asteasolutions/zod-to-openapi';
import { z } from 'zod';
import { problemSchema, type RouteSpec } from './route';
import { routes } from './routes';

extendZodWithOpenApi(z);

/** The OpenAPI 3.1 document of all routes. */
export function openApiDocument(): object {
  const registry = new OpenAPIRegistry();
  for (const [name, spec] of Object.entries<RouteSpec>(routes)) {
    registry.registerPath({
      method: spec.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete',
      path: `/api${spec.path.replace(/:(\w+)/g, '{$1}')}`,
      operationId: name,
      summary: spec.summary,
      description: spec.roles === 'public' ? 'Public.' : `Roles: ${spec.roles.join(', ')}.`,
      request: {
        ...(spec.params ? { params: spec.params } : {}),
        ...(spec.query ? { query: spec.query } : {}),
        ...(spec.body
          ? { body: { content: { 'application/json': { schema: spec.body } }, required: true } }
          : {}),
      },
      responses: {
        200: {
          description: 'Done',
          content:
            typeof spec.answer === 'string'
              ? { [spec.answer]: { schema: { type: 'string', format: 'binary' } } }
              : { 'application/json': { schema: spec.answer } },
        },
        default: {
          description: `Problem (RFC 9457)${spec.problems ? `: ${spec.problems.join(', ')}` : ''}`,
          content: { 'application/problem+json': { schema: problemSchema } },
        },
      },
    });
  }
  return new OpenApiGeneratorV31(registry.definitions).generateDocument({
    openapi: '3.1.0',
    info: { title: 'Rounds', version: '0.1.0' },
  });
}
