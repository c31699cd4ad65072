import fc from 'fast-check';
import { SOLIDS } from '../testing/solids.js';
import { joinMeshes } from '../mesh/index.js';
import {
  applyEdit,
  artKey,
  blobsOfHistory,
  currentDocument,
  describeEdit,
  editSchema,
  type Edit,
  meshReader,
  matchesWildcards,
  operate,
  plainMaterial,
  plainNode,
  pushEdit,
  recipeEdit,
  replaceProxies,
  type Scene,
  selectParts,
  startHistory,
  turnAbout,
  type Operation,
} from '../piece/index.js';
import { FIRST_RULES, recipeYard, yardRulesSchema } from '../rules/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import { expectAsInNode, sameRecipe } from '../testing/same-everywhere.js';
import {
  figuresText,
  firstParameters,
  type PieceFigures,
  pieceFiguresSchema,
  type Recipe,
  recipeJsonSchema,
  recipeSchema,
  type RecipeRun,
  type RecipeStep,
  runRecipe,
  STEP_KINDS,
  stepFields,
  stepsOfHistory,
  typedValue,
} from './index.js';

const yard = recipeYard({ ...FIRST_RULES, targets: ['prefix-tags', 'suffix-tags'] });

/** A frame, a leaf and a handle: three parts of two materials, the frame in two shells. */
function gate(): Scene {
  const frame = joinMeshes([boxMesh([0.1, 1, 0.1], [-1, 1, 0]), boxMesh([0.1, 1, 0.1], [1, 1, 0])]);
  const leaf = { ...boxMesh([0.8, 0.9, 0.05], [0, 1, 0]) };
  leaf.groups = [{ material: 1, start: 0, count: 12 }];
  return {
    ...sceneOf(frame, 'frame'),
    meshes: [
      { name: 'frame', mesh: frame },
      { name: 'leaf', mesh: leaf },
      { name: 'handle', mesh: boxMesh([0.05, 0.05, 0.05], [0.6, 1, 0.1]) },
    ],
    nodes: [plainNode('frame', 0), plainNode('leaf_01', 1), plainNode('handle', 2)],
    materials: [plainMaterial('stone'), plainMaterial('oak planks')],
  };
}

const recipe = (...steps: (Partial<RecipeStep> & { op: string })[]): Recipe =>
  recipeSchema.parse({ format: 1, name: 'to try', steps });
const run = (piece: ReturnType<typeof pieceOf>, of: Recipe) =>
  runRecipe({ recipe: of, document: piece.document, meshOf: piece.meshOf, yard });

describe('selecting parts', () => {
  const { document, meshOf } = pieceOf(gate());
  const names = (selector: Parameters<typeof selectParts>[1]) =>
    selectParts(document, selector, meshOf).map((id) => document.nodes.find((node) => node.id === id)!.name);

  it('goes by name, pattern, material, size, shells and role, and by all of them together', () => {
    expect(names({ by: 'all' })).toEqual(['frame', 'leaf_01', 'handle']);
    expect(names({ by: 'name', names: ['handle', 'nobody'] })).toEqual(['handle']);
    expect(names({ by: 'where', name: 'LEAF*' })).toEqual(['leaf_01']);
    expect(names({ by: 'where', material: 'oak*' })).toEqual(['leaf_01']);
    expect(names({ by: 'where', maxMetres: 0.2 })).toEqual(['handle']);
    expect(names({ by: 'where', minMetres: 0.2, maxShells: 1 })).toEqual(['leaf_01']);
    expect(names({ by: 'where', minShells: 2 })).toEqual(['frame']);
    expect(names({ by: 'where', role: 'largest' })).toEqual(['frame']);
    expect(names({ by: 'where', role: 'hinged', except: true })).toEqual(['frame', 'leaf_01', 'handle']);
  });

  it('reads patterns as they are commonly read', () =>
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom('a', 'b', '.'), maxLength: 8 }),
        fc.string({ unit: fc.constantFrom('a', 'b', '*', '?', '.'), maxLength: 6 }),
        (text, pattern) => {
          const source = [...pattern]
            .map((c) => (c === '*' ? '.*' : c === '?' ? '.' : c === '.' ? '\\.' : c))
            .join('');
          expect(matchesWildcards(text, pattern)).toBe(new RegExp(`^${source}$`).test(text));
        },
      ),
    ));
});

describe('a recipe', () => {
  it('says what is wrong with a step where it is wrong', () => {
    const says = (...steps: unknown[]) =>
      recipeSchema
        .safeParse({ format: 1, name: 'x', steps })
        .error?.issues.map(({ path, message }) => [path.join('.'), message]);
    expect(says({ op: 'weld', parameters: { metres: 0.001 } })).toBeUndefined();
    expect(says({ op: 'nonsense' })).toEqual([['steps.0.op', 'names no step of a recipe: “nonsense”']]);
    expect(says({ op: 'weld', parameters: { metres: -1 } })?.[0]?.[0]).toBe('steps.0.parameters.metres');
    expect(says({ op: 'weld', parameters: { metres: 1, meters: 2 } })?.[0]?.[1]).toContain('meters');
    expect(
      says({ op: 'unit', parts: { by: 'name', names: ['a'] }, parameters: { unit: 'm' } })?.[0]?.[0],
    ).toBe('steps.0.parts');
    expect(
      says({ op: 'deliver', parameters: { target: 'prefix-tags' } }, { op: 'join-borders' })?.[0]?.[1],
    ).toContain('deliveries last');
    expect(says({ op: 'toString' })?.[0]?.[1]).toContain('no step');
  });

  it('is kept in the rules of a yard, and two of one name or key are refused', () => {
    const { recipes: _, ...before } = FIRST_RULES;
    expect(yardRulesSchema.parse(before).recipes).toEqual([]);
    const one = { ...recipe({ op: 'join-borders' }), key: 'q' };
    expect(yardRulesSchema.safeParse({ ...FIRST_RULES, recipes: [one] }).success).toBeTrue();
    const issues = yardRulesSchema.safeParse({ ...FIRST_RULES, recipes: [one, one] }).error!.issues;
    expect(issues.map(({ message }) => message).sort()).toEqual([
      'Two recipes are called “to try”; rename one.',
      'Two recipes have the key Q; give one another.',
    ]);
  });

  it('does its steps one after the other, each to what the one before left', async () => {
    const piece = pieceOf(gate());
    const done = await run(
      piece,
      recipe(
        { op: 'unit', parameters: { unit: 'm' } },
        { op: 'delete', parts: { by: 'where', maxMetres: 0.2 } },
        { op: 'assign-material', parts: { by: 'where', name: 'leaf*' }, parameters: { material: 'iron' } },
        { op: 'remove-materials' },
        { op: 'pivot', parameters: { anchor: 'base-centre' } },
        { op: 'rename', parameters: { list: 'parts', pattern: '{subject:pascal}_{number:2}' } },
        { op: 'wrap', parameters: { kind: 'box', per: 'shell' } },
        { op: 'check', parameters: { maxExcessMetres: 0.001, maxShapes: 3 } },
        { op: 'deliver', parameters: { target: 'suffix-tags' } },
      ),
    );
    expect(done.steps.map(({ outcome, says }) => [outcome, says])).toEqual([
      ['done', 'Its unit is m already.'],
      ['done', jasmine.stringContaining('1 part')],
      ['done', jasmine.stringContaining('iron')],
      ['done', jasmine.stringContaining('material')],
      ['done', 'Its pivot is at the base centre.'],
      ['done', '2 parts renamed: “frame” is “Thing_01”, and so on.'],
      ['done', '3 shapes; excess 0.00 mm, uncovered 0.00 mm.'],
      ['done', 'Nothing is wrong with it.'],
      ['done', 'It leaves for suffix tags with 3 shapes.'],
    ]);
    expect(done.document.materials.map(({ name }) => name)).toEqual(['iron']);
    expect(done.leaving).toEqual([{ target: 'suffix-tags', choices: {} }]);
    expect(done.measured?.judged?.shapes.length).toBe(3);
    expect(figuresText(done.before, done.after)).toBe(
      '2.20 × 2.00 × 0.25 m to 2.20 × 2.00 × 0.20 m, ' +
        '3 parts to 2 parts, 48 triangles to 36 triangles, 0 shapes to 3 shapes, 0.00 mm off',
    );
    // A size is told where it becomes another, and not where an earlier version kept none.
    const sized = (x: number): PieceFigures => ({ ...done.after, size: [x, 0.02, 0.02] });
    expect(figuresText(sized(4), sized(0.04))).toMatch(
      /^4\.00 × 0\.02 × 0\.02 m to 40\.0 × 20\.0 × 20\.0 mm, 2 parts, /,
    );
    const { size: _, ...kept } = done.before;
    expect(figuresText(pieceFiguresSchema.parse(kept), sized(0.04))).toMatch(/^3 parts to 2 parts, /);
    // What it did is a list of edits that come to the same on the piece as it was.
    const again = done.edits.map((edit) => editSchema.parse(JSON.parse(JSON.stringify(edit)))) as Edit[];
    const stored = (value: unknown): unknown => JSON.parse(JSON.stringify(value));
    expect(stored(again.reduce(applyEdit, piece.document))).toEqual(stored(done.document));
    // As one undo step it is the same, and names the same bytes.
    const one = recipeEdit('to try', done.edits);
    const history = pushEdit(startHistory(piece.document), editSchema.parse(stored(one)));
    expect(stored(currentDocument(history))).toEqual(stored(done.document));
    expect(describeEdit(one)).toBe('recipe “to try”');
    for (const id of done.blobs.keys()) expect(blobsOfHistory(history)).toContain(id);
    expect(stepsOfHistory(history).map(({ step }) => step?.op)).toContain('assign-material');
    // What the new meshes are made of is stored beside.
    const meshes = meshReader(new Map([...piece.blobs, ...done.blobs]));
    for (const id of Object.keys(done.document.meshes)) expect(meshes(id).indices.length).toBeGreaterThan(0);
  });

  it('skips or stops where a step does not apply, and a stopped piece is as it was', async () => {
    const piece = pieceOf(gate());
    const lost = { op: 'delete', parts: { by: 'name' as const, names: ['nobody'] } };
    const rest = [{ op: 'scale', parameters: { factor: 2 } }];
    const skipped = await run(piece, recipe({ ...lost, otherwise: 'skip' }, ...rest));
    expect(skipped.steps.map(({ outcome }) => outcome)).toEqual(['skipped', 'done']);
    expect(skipped.steps[0]!.says).toBe('The piece has no part called “nobody”.');
    expect(skipped.stopped).toBeNull();
    const stopped = await run(piece, recipe(...rest, lost, ...rest));
    expect(stopped.steps.map(({ outcome }) => outcome)).toEqual(['done', 'stopped']);
    expect(stopped.stopped).toBe('Stopped at step 2, delete parts: The piece has no part called “nobody”.');
    expect([stopped.document, stopped.edits, stopped.blobs.size]).toEqual([piece.document, [], 0]);
  });

  it('replaces the shapes of its own parts, and leaves the others', async () => {
    const piece = pieceOf(gate());
    const boxes = recipe({ op: 'wrap', parameters: { kind: 'box', per: 'part' } });
    const wrapped = { ...piece, document: (await run(piece, boxes)).document };
    const leaf = { by: 'where' as const, name: 'leaf*' };
    const anew = await run(wrapped, recipe({ op: 'ladder', parts: leaf, parameters: { agent: null } }));
    const owners = anew.document.proxies.map(({ part }) => part);
    expect(owners).toEqual(['n1', 'n3', 'n2']);
    const beside = await run(
      wrapped,
      recipe({ op: 'wrap', parts: leaf, parameters: { kind: 'hull', per: 'part', replaces: 'none' } }),
    );
    expect(beside.document.proxies.length).toBe(4);
    const gone = await run(wrapped, recipe({ op: 'clear-shapes', parts: leaf }));
    expect(gone.document.proxies.map(({ part }) => part)).toEqual(['n1', 'n3']);
  });

  it('comes to the same bytes again, in Node and in the browser', async () => {
    const text = await sameRecipe();
    const { steps, document } = JSON.parse(text) as RecipeRun;
    expect(steps.map(({ outcome }) => outcome)).toEqual(steps.map(() => 'done' as const));
    expect(document.proxies.length).toBeGreaterThan(3);
    expect(await sameRecipe()).toBe(text);
    expectAsInNode('recipe', text);
  });

  it('keeps to the budget of the yard, and says when nothing is good enough', async () => {
    const stair = pieceOf(sceneOf(SOLIDS.stair(12)));
    const rules = { ...FIRST_RULES, budgets: [{ upToMetres: 1000, shapes: 3, corners: 100 }] };
    const ask = (parameters: object) =>
      runRecipe({
        recipe: recipe({
          op: 'ladder',
          parameters: { agent: 'gull', ...parameters } as RecipeStep['parameters'],
        }),
        document: stair.document,
        meshOf: stair.meshOf,
        yard: recipeYard(rules),
      });
    const within = await ask({});
    expect(within.document.proxies.length).toBeLessThanOrEqual(3);
    expect(within.steps[0]!.says).toContain('good enough for the gull');
    expect((await ask({ withinBudget: false })).document.proxies.length).toBeGreaterThan(3);
    expect((await ask({ shapes: 2 })).document.proxies.length).toBe(2);
  });

  it('sends agents by what is given to it, and stops where they do not pass', async () => {
    const piece = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const asked: string[] = [];
    const walk =
      (falls: number) =>
      async ({ agent }: { agent: { id: string } }) => {
        asked.push(agent.id);
        return {
          key: 'a'.repeat(64),
          agent: agent.id,
          runs: 3,
          openings: [],
          contacts: [],
          contactCount: 0,
          blocked: [],
          blockedCount: 0,
          stuck: [],
          falls: [],
          fallCount: falls,
          jolts: [],
          stumbles: [],
          slips: [],
          routes: [],
        };
      };
    const of = recipe(
      { op: 'wrap', parameters: { kind: 'box', per: 'piece' } },
      { op: 'trial', parameters: { agents: ['gull', 'deckhand'] } },
    );
    const input = { recipe: of, document: piece.document, meshOf: piece.meshOf, yard };
    const passed = await runRecipe({ ...input, walk: walk(0) });
    expect(passed.measured?.trials?.walks.map(({ agent }) => agent)).toEqual(['gull', 'deckhand']);
    expect((await runRecipe({ ...input, walk: walk(2) })).stopped).toContain('falls through in 2 places');
    expect((await runRecipe(input)).stopped).toContain('Trials cannot be run here');
    expect(asked.slice(0, 2)).toEqual(['gull', 'deckhand']);
  });

  it('lets no kind of step fail with a message of the language, whatever its parameters', async () => {
    const piece = pieceOf(gate());
    const step = fc
      .constantFrom(...Object.keys(STEP_KINDS).filter((op) => !['unwrap', 'ladder', 'reduced'].includes(op)))
      .chain((op) =>
        fc.record({
          op: fc.constant(op),
          parameters: fc.dictionary(
            fc.constantFrom(
              'metres',
              'kind',
              'per',
              'agent',
              'target',
              'which',
              'degrees',
              'parent',
              'name',
              'material',
              'pattern',
              'list',
              'factor',
              'rule',
              'anchor',
              'smallest',
            ),
            fc.constantFrom<unknown>(
              1e-4,
              2,
              'box',
              'shell',
              'gull',
              'prefix-tags',
              ['doubled'],
              'base-centre',
              'leaf*',
              'parts',
              null,
            ),
            { maxKeys: 3 },
          ),
          parts: fc.constantFrom(undefined, { by: 'where' as const, name: 'leaf*' }, { by: 'all' as const }),
        }),
      );
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 3 }), async (steps) => {
        const parsed = recipeSchema.safeParse({ format: 1, name: 'x', steps });
        if (!parsed.success) return;
        const done = await run(piece, parsed.data);
        for (const { says } of done.steps) expect(says).not.toMatch(/undefined|NaN|\[object|null/);
      }),
      { numRuns: 300 },
    );
  });
});

describe('the JSON schema of recipes', () => {
  it('has every step with its own parameters, and can be written out', () => {
    const schema = JSON.parse(JSON.stringify(recipeJsonSchema())) as {
      properties: {
        steps: { items: { oneOf: { properties: { op: { const: string }; parameters: object } }[] } };
      };
    };
    const steps = schema.properties.steps.items.oneOf;
    expect(steps.map(({ properties }) => properties.op.const)).toEqual(Object.keys(STEP_KINDS));
    const weld = steps.find(({ properties }) => properties.op.const === 'weld')!;
    expect(weld.properties.parameters).toEqual(
      jasmine.objectContaining({ type: 'object', required: ['metres'], additionalProperties: false }),
    );
  });
});

describe('steps of a history', () => {
  it('are the intents of what was done, and run to the same on the piece they came from', async () => {
    const piece = pieceOf(gate());
    let history = startHistory(piece.document);
    const blobs = new Map(piece.blobs);
    const meshOf = meshReader(blobs);
    const push = (edit: Edit) => (history = pushEdit(history, edit));
    push({ kind: 'set-unit', unit: 'cm' });
    push({ kind: 'turn', turn: turnAbout([0, 1, 0], 90), about: [0, 0, 0] });
    const operations: Operation[] = [
      { op: 'weld', parts: [], metres: 0.0002 },
      { op: 'assign-material', parts: ['n1'], material: 1 },
    ];
    for (const operation of operations) {
      const done = await operate(currentDocument(history), operation, meshOf);
      done.blobs.forEach((bytes, id) => blobs.set(id, bytes));
      push(done.edit);
    }
    push(replaceProxies([{ id: 'x', shape: { kind: 'sphere', center: [0, 0, 0], radius: 1 } }]));
    const steps = stepsOfHistory(history);
    expect(steps.map(({ step }) => step?.op ?? null)).toEqual([
      'unit',
      'turn',
      'weld',
      'assign-material',
      null,
    ]);
    expect(steps[3]!.step).toEqual({
      op: 'assign-material',
      parts: { by: 'name', names: ['frame'] },
      parameters: { material: 'oak planks' },
    });
    const again = await run(piece, {
      ...recipe({ op: 'join-borders' }),
      steps: steps.flatMap(({ step }) => step ?? []),
    });
    expect(again.stopped).toBeNull();
    expect(artKey(again.document)).toBe(artKey(currentDocument(history)));
  });
});

describe('the form of a step', () => {
  it('has words for every parameter, and begins with what can be read', () => {
    for (const op of Object.keys(STEP_KINDS)) {
      for (const { name, label } of stepFields(op)) expect([op, name, label]).not.toEqual([op, name, name]);
      const step = { op, parameters: firstParameters(op) };
      const { error } = recipeSchema.safeParse({ format: 1, name: 'x', steps: [step] });
      expect([op, error?.issues.map(({ path, message }) => `${path.join('.')} ${message}`)]).toEqual([
        op,
        undefined,
      ]);
    }
  });

  it('begins with an agent that every yard has: nobody', () => {
    expect(firstParameters('agent')).toEqual({ agent: null });
  });

  it('reads what is typed as what it is', () => {
    expect(['', ' 12 ', '[1, 0, 0]', 'oak*', '"12"', 'true'].map(typedValue)).toEqual([
      undefined,
      12,
      [1, 0, 0],
      'oak*',
      '12',
      true,
    ]);
  });
});
