/** The pages of the guide in the order of the work; each is a file of that name in docs/guide. */
export const GUIDE_PAGES = [
  { id: '1-intake', title: '1 Intake' },
  { id: '2-parts', title: '2 Parts' },
  { id: '3-size', title: '3 Size' },
  { id: '4-pivot', title: '4 Pivot' },
  { id: '5-proxies', title: '5 Proxies' },
  { id: '6-names', title: '6 Names' },
  { id: '7-trial', title: '7 Trial' },
  { id: '8-delivery', title: '8 Delivery' },
  { id: '9-recipes', title: 'Recipes' },
  { id: '10-a-team', title: 'For a team' },
  { id: 'recipes', title: 'The file of a recipe' },
] as const;

/** Addresses as they are beside the code become those of the application. */
export const guideHtml = (html: string): string =>
  html
    .replace(/src="\.\.\/screenshots\/([\w-]+\.png)"/g, 'src="/guide/pictures/$1"')
    .replace(/href="(?:\.\.\/)?([\w-]+)\.md"/g, 'href="/guide/$1"')
    .replace(/href="recipe\.schema\.json"/g, 'href="/guide/recipe.schema.json"');
