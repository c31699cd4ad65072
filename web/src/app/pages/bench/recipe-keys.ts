import { DestroyRef, effect, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { Recipe } from '@yard-brace/core';
import { RecipeRuns } from '../../state/recipe-runs';
import { Keymap } from '../../ui/keymap';

/** Recipes that have a key are tried by it, with Alt, as long as the bench is open. */
@Injectable()
export class RecipeKeys {
  private readonly runs = inject(RecipeRuns);
  private readonly keymap = inject(Keymap);
  private readonly recipes = toSignal(this.runs.recipes$, { initialValue: [] });
  private release: (() => void) | null = null;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.release?.());
    effect(() => this.bind(this.recipes()));
  }

  private bind(recipes: readonly Recipe[]): void {
    this.release?.();
    this.release = null;
    const keyed = recipes.flatMap((recipe) =>
      recipe.key ? [{ recipe, key: recipe.key.toUpperCase() }] : [],
    );
    this.release = this.keymap.add(
      keyed.map(({ recipe, key }) => ({
        keys: [`Alt+${key}`],
        help: `try the recipe “${recipe.name}”`,
        act: () => void this.runs.tryOn(recipe),
      })),
    );
  }
}
