import { computed, Injectable } from '@angular/core';
import {
  firstParameters,
  type Recipe,
  RECIPE_VERSION,
  recipeSchema,
  STEP_KINDS,
  type YardRules,
} from '@yard-brace/core';
import { RulesDraft, type RulesPath } from './rules-draft';

/** Where the step stands in the draft. */
export const STEP_PLACE: RulesPath = ['recipes', 0, 'steps', 0];

/** A recipe of one step that is filled in and done once: a draft of rules that are never saved. */
@Injectable()
export class OneStep extends RulesDraft {
  /** null while something of it is wrong */
  readonly recipe = computed((): Recipe | null => {
    const [recipe] = (this.at(['recipes']) ?? []) as unknown[];
    return (this.rules() && recipeSchema.safeParse(recipe).data) ?? null;
  });

  begin(rules: YardRules, op: string): void {
    const name = STEP_KINDS[op]!.label;
    const recipe = { format: RECIPE_VERSION, name, steps: [{ op, parameters: firstParameters(op) }] };
    this.replace({ ...rules, recipes: [recipe] });
  }

  /** On no piece: nobody saves it. */
  protected override askEffect(): void {}
}
