import * as z from 'zod';
import { partSelectorSchema } from '../piece/index.js';
import { MAX_RECIPE_STEPS, RECIPE_VERSION } from './recipe.js';
import { OTHERWISE } from './step-kind.js';
import { STEP_KINDS } from './step-kinds.js';

const jsonSchema = (schema: z.ZodType): object => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
  return rest;
};

/** The JSON schema of a recipe, read off the very schemas that it is checked by: JSON Schema 2020-12. */
export function recipeJsonSchema(): object {
  const steps = Object.entries(STEP_KINDS).map(([op, { label, parts, parameters }]) => ({
    title: label,
    type: 'object',
    required: ['op'],
    additionalProperties: false,
    properties: {
      op: { const: op },
      ...(parts ? { parts: { $ref: '#/$defs/parts' } } : {}),
      parameters: jsonSchema(parameters),
      otherwise: { enum: [...OTHERWISE] },
    },
  }));
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Recipe of Yard Brace',
    type: 'object',
    required: ['format', 'name', 'steps'],
    additionalProperties: false,
    properties: {
      format: { const: RECIPE_VERSION },
      name: { type: 'string', minLength: 1, maxLength: 60 },
      key: { type: 'string', pattern: '^[a-z]$' },
      steps: { type: 'array', minItems: 1, maxItems: MAX_RECIPE_STEPS, items: { oneOf: steps } },
    },
    $defs: { parts: jsonSchema(partSelectorSchema) },
  };
}
