export {
  MAX_RECIPE_STEPS,
  MAX_RECIPES,
  type Recipe,
  RECIPE_VERSION,
  recipeSchema,
  type RecipeStep,
  recipeStepSchema,
} from './recipe.js';
export { recipeJsonSchema } from './recipe-json-schema.js';
export { type HistoryStep, stepsOfHistory } from './recipe-of-history.js';
export type { WantedDelivery } from './recipe-work.js';
export type { RecipeYard, WalkPiece } from './recipe-yard.js';
export * from './run-recipe.js';
export { StepError } from './step-error.js';
export { ALL_PARTS, type StepKind } from './step-kind.js';
export { firstParameters, type StepField, stepFields, typedValue } from './step-form.js';
export { STEP_KINDS, stepKindOf } from './step-kinds.js';
