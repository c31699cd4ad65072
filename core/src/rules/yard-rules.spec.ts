import { FIRST_AGENTS } from '../check/index.js';
import { memoryFile, readFile } from '../format/index.js';
import {
  assemble,
  type DeliveryChoices,
  inventoryOf,
  OPEN_PHYSICS_GLTF,
  planDelivery,
  PREFIX_TAGS,
  SUFFIX_TAGS,
  TWIN_FILE,
  type TargetProfile,
} from '../target/index.js';
import { pieceOf } from '../testing/documents.js';
import { boxMesh, sceneOf } from '../testing/meshes.js';
import {
  applyEdit,
  type PieceDocument,
  pivotAt,
  pivotEdit,
  plainMaterial,
  plainNode,
  type Scene,
} from '../piece/index.js';
import { deliveryStates } from './delivery-states.js';
import {
  agentFor,
  budgetFor,
  checkRulesFor,
  defaultTarget,
  meshNameBy,
  namedByRules,
  pieceFolder,
  profileIn,
  targetsOf,
  choicesByRules,
} from './of-rules.js';
import { FIRST_RULES, type YardRules, yardRulesSchema } from './yard-rules.js';

const faultOf = (change: Partial<YardRules>) => {
  const issue = yardRulesSchema.safeParse({ ...FIRST_RULES, ...change }).error?.issues[0];
  return issue && `${issue.path.join('.')}: ${issue.message}`;
};
const own = (change: Partial<TargetProfile>): TargetProfile => ({
  ...SUFFIX_TAGS,
  id: 'ours',
  name: 'ours',
  ...change,
});
const faultOfProfile = (change: Partial<TargetProfile>) => faultOf({ profiles: [own(change)] });

describe('the rules of a yard', () => {
  it('begin valid, and go through a file unchanged', () =>
    expect(yardRulesSchema.parse(JSON.parse(JSON.stringify(FIRST_RULES)))).toEqual(FIRST_RULES));

  it('say what is wrong with them, and where', () => {
    const [first] = FIRST_AGENTS;
    const faults: [Partial<YardRules>, string][] = [
      [{ agents: [] }, 'agents: A yard has one agent at least.'],
      [
        { agents: [first!, { ...first!, id: 'other' }] },
        'agents.1: Two agents are called “gantry rig”; rename one.',
      ],
      [{ agent: 'nobody' }, 'agent: There is no agent “nobody”; choose another one.'],
      [
        {
          budgets: [
            { upToMetres: 2, shapes: 1, corners: 8 },
            { upToMetres: 1, shapes: 1, corners: 8 },
          ],
        },
        'budgets.1.upToMetres: It is no larger than the size before it, 2 m.',
      ],
      [{ targets: [] }, 'targets: A yard has one target at least.'],
      [{ targets: ['nowhere'] }, 'targets.0: There is no profile “nowhere”; choose another one.'],
      [{ targets: ['prefix-tags', 'prefix-tags'] }, 'targets.1: The target “prefix-tags” is listed twice.'],
      [
        { profiles: [PREFIX_TAGS] },
        'profiles.0.id: “prefix-tags” is a profile that ships; give yours another id.',
      ],
      [
        { names: { mesh: '{subject}{variant}' } },
        'names.mesh: Nothing stands between {subject} and {variant}: a name could not be taken apart again.',
      ],
      [
        { folders: { models: '../out', pictures: '', papers: '' } },
        'folders.models: A folder is words with “/” between them, and stays below the piece’s own.',
      ],
      [
        { presets: [{ name: 'a', target: 'nowhere', choices: {} }] },
        'presets.0.target: There is no profile “nowhere”; choose another one.',
      ],
    ];
    for (const [change, says] of faults) expect(faultOf(change)).toBe(says);
  });

  it('refuse a profile that leads nowhere, with the place', () => {
    const { kinds, space, collision } = SUFFIX_TAGS;
    expect(faultOfProfile({})).toBeUndefined();
    expect(faultOfProfile({ kinds: { ...kinds, nearest: {} } })).toContain('A box ends nowhere');
    // Two kinds that become each other end nowhere either.
    const circle = { box: 'sphere', sphere: 'box', capsule: 'hull', cylinder: 'hull' } as const;
    expect(faultOfProfile({ kinds: { ...kinds, nearest: circle } })).toContain('A box ends nowhere');
    expect(faultOfProfile({ space: { ...space, forward: '-y' } })).toContain(
      'Forward lies along Y, which is up',
    );
    expect(faultOfProfile({ names: { ...SUFFIX_TAGS.names, legalCharacters: ['Z-A'] } })).toContain(
      'A range is one character',
    );
    expect(faultOfProfile({ containers: ['glb', 'usda'] })).toContain(
      'USDA says collision by its own schemas',
    );
    expect(faultOfProfile({ collision: { ...collision, separator: '' } as never })).toContain(
      'Without a separator',
    );
    expect(faultOfProfile({ collision: { ...collision, separator: '_0' } as never })).toContain(
      'ends in a digit',
    );
    expect(faultOfProfile({ collision: { ...collision, drawn: '-colonly' } as never })).toContain(
      'stands for two things',
    );
    expect(faultOfProfile({ collision: { ...collision, tokens: { hull: '-x' } } as never })).toContain(
      'knows a surface, and no token says so',
    );
    expect(
      faultOf({
        profiles: [
          own({ ...TWIN_FILE, id: 'ours', kinds: { ...TWIN_FILE.kinds, known: ['hull', 'surface'] } }),
        ],
      }),
    ).toContain('A second file holds one surface');
    expect(faultOf({ profiles: [own({ ...OPEN_PHYSICS_GLTF, id: 'ours', containers: ['obj'] })] })).toContain(
      'cannot be written as obj',
    );
  });

  it('answer what a yard delivers for, and an unknown target is an error and no other', () => {
    const rules = { ...FIRST_RULES, targets: ['ours', 'twin-file'], profiles: [own({})] };
    expect(targetsOf(rules).map(({ id }) => id)).toEqual(['ours', 'twin-file']);
    expect(defaultTarget(rules).name).toBe('ours');
    expect(() => profileIn(rules, 'nowhere')).toThrowError(/no target profile “nowhere”/);
  });

  it('tell for each target whether what leaves has changed, not whether it was saved again', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const rules = { ...FIRST_RULES, targets: ['prefix-tags', 'suffix-tags', 'twin-file'] };
    const last = (target: TargetProfile) => ({
      target: target.id,
      agreed: true,
      choices: {},
      inventory: inventoryOf(planDelivery(document, target)),
      version: 1,
    });
    const left = [last(PREFIX_TAGS), { ...last(SUFFIX_TAGS), inventory: null }];
    const changes = (after: PieceDocument, version: number) =>
      deliveryStates(after, rules, left, version).map((state) => [state.target, state.changes]);
    expect(changes(applyEdit(document, { kind: 'rename-piece', name: 'Other' }), 2)).toEqual([
      ['prefix tags', []],
      ['suffix tags', ['It was saved since.']],
    ]);
    expect(changes(applyEdit(document, pivotEdit('numeric', [0, 1, 0])), 1)).toEqual([
      ['prefix tags', ['The pivot of “Thing” moved by 1.0000 m.']],
      ['suffix tags', []],
    ]);
  });

  it('name a mesh by the pattern, or as all are named where that cannot be filled', () => {
    const by = (mesh: string, nameFields = {}) => meshNameBy({ names: { mesh }, nameFields }, 'quay wall');
    expect(meshNameBy(FIRST_RULES, 'quay wall 2')).toBe('QuayWall_02');
    expect(by('SM_{subject:pascal}_{variant:2}')).toBe('SM_QuayWall_01');
    expect(by('{code}_{subject:snake}', { code: 'QW' })).toBe('QW_quay_wall');
    expect(by('{code}_{subject:snake}')).toBe('QuayWall');
  });

  it('name a new piece and its mesh by their patterns, where it can be called so', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])), 'quay wall.obj');
    const by = (names: YardRules['names']) => {
      const made = namedByRules(document, { names, nameFields: { code: 'SG' } });
      return [made.name, made.meshName];
    };
    expect(namedByRules(document, FIRST_RULES)).toEqual(document);
    expect(by({ piece: '{code} {subject}' })).toEqual(['SG Quay wall', 'SGQuayWall']);
    expect(by({ mesh: 'SM_{subject:pascal}_{variant:2}' })).toEqual(['Quay wall', 'SM_QuayWall_01']);
    expect(by({ piece: '{initials} {subject}' })).toEqual(['Quay wall', 'QuayWall']);
  });

  it('name a file by the pattern where it can be filled, and never out of its folder', () => {
    const by = (file: string, choices = {}) =>
      choicesByRules(
        choices,
        { names: { file }, nameFields: { code: 'QW' }, materialNames: [] },
        { name: 'quay wall' },
        'prefix-tags',
      );
    expect(choicesByRules({ container: 'dae' }, FIRST_RULES, { name: 'quay wall' }, 'prefix-tags')).toEqual({
      container: 'dae',
    });
    expect(by('{code}-{subject:kebab}_{variant:3}')).toEqual({ stem: 'QW-quay-wall_001', code: 'QW' });
    expect(by('{initials}_{subject}')).toEqual({ code: 'QW' });
    expect(by('../{subject}').stem).not.toContain('/');
    expect(by('{subject}', { stem: 'given', code: 'X' })).toEqual({ stem: 'given', code: 'X' });
  });

  it('have names of targets for material slots, each once; a delivery for that target takes them', () => {
    const materialNames = [{ slot: 'oak', target: 'prefix-tags', own: 'M_Oak_Inst' }];
    const rules = { ...FIRST_RULES, materialNames };
    expect(yardRulesSchema.parse(rules).materialNames).toEqual(materialNames);
    const { materialNames: _none, ...older } = FIRST_RULES;
    expect(yardRulesSchema.parse(older).materialNames).toEqual([]);
    expect(choicesByRules({}, rules, { name: 'gate' }, 'prefix-tags')).toEqual({
      materialNames: { oak: 'M_Oak_Inst' },
    });
    expect(choicesByRules({}, rules, { name: 'gate' }, 'another')).toEqual({});
    const twice = yardRulesSchema.safeParse({
      ...rules,
      materialNames: [...materialNames, ...materialNames],
    });
    expect(twice.error!.issues[0]!.message).toBe('“oak” has a name in that target already.');
    const scene = { ...sceneOf(boxMesh([1, 1, 1])), materials: [plainMaterial('oak'), plainMaterial('tar')] };
    const { document } = pieceOf(scene);
    const plan = planDelivery(document, PREFIX_TAGS, { materialNames: { oak: 'M_Oak_Inst' } });
    expect(plan.document.materials.map(({ name }) => name)).toEqual(['M_Oak_Inst', 'tar']);
  });

  it('may name a slot otherwise on one part: only its faces leave so, and nothing is made twice', async () => {
    const mesh = boxMesh([1, 1, 1]);
    const scene: Scene = {
      ...sceneOf(mesh),
      nodes: [plainNode('Post', 0), { ...plainNode('Leaf', 0), translation: [5, 0, 0] }],
      meshes: [{ name: 'box', mesh: { ...mesh, groups: [{ material: 0, start: 0, count: 12 }] } }],
      materials: [plainMaterial('oak'), plainMaterial('tar')],
    };
    const { document, ...sources } = pieceOf(scene);
    const every = { slot: 'oak', target: 'prefix-tags', own: 'M_Oak' };
    const own = { ...every, part: 'Leaf', own: 'M_Oak_Wet' };
    const rules = yardRulesSchema.parse({ ...FIRST_RULES, materialNames: [every, own] });
    const faults = yardRulesSchema.safeParse({ ...FIRST_RULES, materialNames: [own, own] });
    expect(faults.error!.issues[0]!.message).toBe('“oak” of “Leaf” has a name in that target already.');
    const choices = choicesByRules({}, rules, document, 'prefix-tags');
    expect(choices.partMaterials).toEqual([{ part: 'Leaf', slot: 'oak', own: 'M_Oak_Wet' }]);
    const files = await assemble(document, PREFIX_TAGS, {
      ...sources,
      choices: { ...choices, container: 'glb' },
    });
    const glb = files.find(({ name }) => name.endsWith('.glb'))!;
    const back = await readFile(memoryFile(glb.name, glb.bytes), []);
    const facesOf = new Map<string, number>();
    for (const { mesh: each } of back.meshes)
      for (const { material, count } of each.groups) {
        const { name } = back.materials[material]!;
        facesOf.set(name, (facesOf.get(name) ?? 0) + count);
      }
    expect([...facesOf].sort()).toEqual([
      ['M_Oak', 12],
      ['M_Oak_Wet', 12],
    ]);
    // The target has it already under another slot: that one is taken.
    const same = planDelivery(document, PREFIX_TAGS, {
      partMaterials: [{ part: 'Leaf', slot: 'oak', own: 'tar' }],
    });
    expect(same.document.materials.map(({ name }) => name)).toEqual(['oak', 'tar']);
    expect(same.document.slotsOf!.get(1)!.get(0)).toBe(1);
  });

  it('let a piece leave on its pivot for presentation where that is asked for', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    const put = { kind: 'set-presentation', pivot: pivotAt('numeric', [0, 5, 0]) } as const;
    const turned = applyEdit(applyEdit(document, put), { kind: 'resize', factor: 2, about: [0, 0, 0] });
    expect(turned.presentation!.position).toEqual([0, 10, 0]);
    const profile = PREFIX_TAGS;
    const pivotOf = (choices: DeliveryChoices) =>
      planDelivery(turned, profile, choices).document.pivot.position;
    expect([pivotOf({}), pivotOf({ presentation: true })]).toEqual([
      [0, 0, 0],
      [0, 10, 0],
    ]);
  });

  it('give a piece a folder that stays where it is, whatever it is called', () => {
    const rules = { ...FIRST_RULES, names: { folder: '{origin}/{subject}' }, nameFields: { origin: 'slip' } };
    expect(pieceFolder(FIRST_RULES, { name: 'Gate' })).toBe('');
    expect(pieceFolder(rules, { name: 'Sluice gate' })).toBe('slip/Sluice gate');
    expect(pieceFolder(rules, { name: '../../etc/passwd' })).toBe('slip/-..-etc-passwd');
    expect(pieceFolder(rules, { name: '..' })).toBe('slip/_');
    expect(() => pieceFolder({ ...rules, nameFields: {} }, { name: 'Gate' })).toThrowError(
      /needs the field “origin”/,
    );
  });

  it('answer for whom a piece is judged, and what it may cost by its size', () => {
    const { document } = pieceOf(sceneOf(boxMesh([1, 1, 1])));
    expect(agentFor(document, FIRST_RULES)!.id).toBe('deckhand');
    expect(agentFor(document, { ...FIRST_RULES, agent: 'gull' })!.id).toBe('gull');
    expect(agentFor({ agent: 'gantry-rig' }, { ...FIRST_RULES, agent: 'gull' })!.id).toBe('gantry-rig');
    expect([0.2, 2, 3, 5000].map((longest) => budgetFor(FIRST_RULES, longest)?.shapes)).toEqual([
      12,
      32,
      128,
      undefined,
    ]);
    expect(checkRulesFor(document, FIRST_RULES, SUFFIX_TAGS).kinds).toEqual(['hull', 'surface']);
  });
});
