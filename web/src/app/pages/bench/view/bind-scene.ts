import { facesOfArea } from '@yard-brace/core';
import { computed, effect, inject, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ArtLooks } from '../../../state/art-looks';
import { ArtStore } from '../../../state/art-store';
import { BenchStore } from '../../../state/bench-store';
import { DeviationStore } from '../../../state/deviation-store';
import { InHand } from '../../../state/in-hand';
import { PartDrag } from '../../../state/part-drag';
import { Proposals } from '../../../state/proposals';
import { Selection } from '../../../state/selection';
import { SetPlaces } from '../../../state/set-places';
import { ShapeEditor } from '../../../state/shape-editor';
import { ViewMarks } from '../../../state/view-marks';
import { ViewSettingsStore } from '../../../state/view-settings';
import { apartColors } from '../../../viewport/apart-colors';
import { LOOKED_FROM } from '../../../viewport/camera-rig';
import { uvColors } from '../../../viewport/uv-colors';
import type { MarksToDraw } from '../../../viewport/layers/marks-layer';
import type { Reference } from '../../../viewport/layers/references-layer';
import type { BenchScene } from './bench-scene';
import { protractorOf, turnAxis } from './shape-drags';
import { numberedShapes, shiftedParts, shownLenses, shapesOfMoved, swungParts } from './shown-marks';

export interface BoundScene {
  scene: Signal<BenchScene | null>;
  /** everything that is drawn over the piece */
  marks: Signal<MarksToDraw | null>;
  /** 0 shows the art alone, 1 the proxies alone */
  veil: Signal<number>;
}

/** Draws what the stores say, each thing again only when it has changed. Called where a component is made. */
export function bindScene({ scene, marks, veil }: BoundScene): void {
  const arts = inject(ArtStore);
  const view = inject(ViewSettingsStore);
  const selection = inject(Selection);
  const stores = {
    piece: toSignal(inject(BenchStore).piece$, { initialValue: null }),
    document: toSignal(arts.shown$, { initialValue: null }),
    art: toSignal(arts.art$, { requireSync: true }),
    beside: toSignal(arts.beside$, { requireSync: true }),
    proposal: toSignal(inject(Proposals).proposal$, { requireSync: true }),
    chosen: toSignal(selection.faces$, { requireSync: true }),
    pointed: toSignal(selection.pointed$, { requireSync: true }),
    deviation: toSignal(inject(DeviationStore).deviation$, { requireSync: true }),
    swing: toSignal(inject(ViewMarks).swing$, { requireSync: true }),
    shift: toSignal(inject(PartDrag).shift$, { requireSync: true }),
    hardEdges: toSignal(inject(ArtLooks).hardEdges$, { requireSync: true }),
    uvs: toSignal(inject(ArtLooks).uvs$, { requireSync: true }),
    apart: toSignal(inject(ArtLooks).apart$, { requireSync: true }),
    faults: toSignal(inject(ViewMarks).faults$, { requireSync: true }),
    readBack: toSignal(inject(ViewMarks).readBack$, { requireSync: true }),
    place: toSignal(inject(ViewMarks).place$, { requireSync: true }),
    setPlaces: toSignal(inject(SetPlaces).places$, { requireSync: true }),
    selected: toSignal(selection.selected$, { requireSync: true }),
    drag: toSignal(inject(ShapeEditor).drag$, { requireSync: true }),
    inHand: toSignal(inject(InHand).inHand$, { initialValue: null }),
  };
  const settings = toSignal(view.settings$, { requireSync: true });
  const { art } = stores;
  /** One effect a thing; those that lie on the art are drawn again with it. */
  const draw = (act: (scene: BenchScene) => void) =>
    effect(() => {
      const ready = scene();
      if (ready) act(ready);
    });

  draw((s) => s.setArt(art(), art()?.piece ?? 0));
  draw((s) => s.setNeighbours(stores.beside()));
  const growth = computed(() => stores.proposal()?.beside ?? null);
  draw((s) => s.growNeighbours(growth()));
  const shapes = computed(() => stores.readBack()?.shapes ?? stores.document()?.proxies ?? []);
  draw((s) => s.proxies.set(numberedShapes({ proxies: shapes() })));
  const shapesLook = computed(
    () => ({
      veil: veil(),
      lit: stores.pointed(),
      chosen: stores.selected().proxies,
      changed: stores.readBack()?.changed,
      hidden: settings().shapesHidden,
      locked: settings().shapesLocked,
    }),
    { equal: sameFields },
  );
  draw((s) => s.setLook(shapesLook()));
  draw((s) => (shapes(), s.proxies.preview(stores.drag()?.shapes ?? null)));
  draw((s) => (art(), s.setDeviation(stores.deviation())));
  draw((s) => s.pivot.set(stores.document()?.pivot ?? null));
  draw((s) => {
    art();
    const now = marks();
    if (now) s.setMarks(now);
  });
  draw((s) => (art(), s.setChosen(marked(stores.chosen()?.faces ?? null))));
  draw((s) => {
    art();
    const faults = stores.faults();
    s.setFaults(faults?.faces ?? null, faults?.edges ?? null);
  });

  draw((s) => {
    const drawn = art();
    const places = stores.setPlaces();
    const bare =
      drawn && places?.bare.length
        ? marked(
            facesOfArea(
              drawn.document,
              { faces: places.bare },
              { node: drawn.art.part, face: drawn.art.face },
            ),
          )
        : null;
    s.setSetPlaces(bare, shownLenses(places?.lenses ?? [], stores.selected().proxies));
  });

  draw((s) => {
    const place = stores.place();
    if (place) s.goTo(place);
  });

  const from = computed(() => settings().from);
  draw((s) => {
    const hand = stores.inHand();
    const turn = hand && protractorOf(hand, turnAxis(LOOKED_FROM[from()]));
    s.handles.set(hand?.handles ?? [], hand?.corners ?? [], turn);
  });
  draw((s) => {
    if (s.viewport.rig.from === from()) return;
    s.viewport.rig.lookFrom(from());
    s.viewport.fit();
  });
  const look = computed(
    () => ({
      wire: settings().wire,
      facing: settings().facing,
      checker: settings().checker,
      checkerSet: settings().checkerSet,
    }),
    { equal: sameFields },
  );
  draw((s) => (art(), s.art.look(look())));
  const cut = computed(() => settings().cut);
  draw((s) => (art(), s.setCut(cut())));
  const parts = computed(() => ({ hidden: settings().hidden, alone: settings().alone }), {
    equal: sameFields,
  });
  draw((s) => {
    const drawn = art();
    const document = stores.document();
    const shifted = drawn && shiftedParts(drawn.document, stores.shift());
    const moved = shifted ?? (drawn && document && swungParts(document, drawn.document, stores.swing()));
    s.art.showParts(parts(), moved);
    s.proxies.move(
      moved && document && drawn && { ...moved, ids: shapesOfMoved(document, drawn.document, moved) },
    );
  });
  draw((s) => (art(), s.setHardEdges(stores.hardEdges())));
  const tints = computed(() => {
    const [apart, uvs] = [stores.apart(), stores.uvs()];
    return apart ? apartColors(apart) : uvs && uvColors(uvs);
  });
  draw((s) => (art(), s.setTints(tints())));
  const turning = computed(() => settings().turning);
  draw((s) => s.viewport.setTurning(turning()));
  const references = computed(
    () => {
      const { references: ids, typedReferences: typed, referencePlaces: places } = settings();
      return { ids, typed, places };
    },
    { equal: sameFields },
  );
  let stood = 0;
  draw((s) => {
    art();
    const agents = stores.piece()?.yard.rules.agents ?? [];
    const { ids, typed, places } = references();
    const at = (id: string) => (places.has(id) ? { at: places.get(id)! } : {});
    const known = [
      ...ids.flatMap((id): Reference[] => {
        if (id === 'door' || id === 'cube') return [{ kind: id, ...at(id) }];
        const agent = agents.find((each) => each.id === id);
        return agent ? [{ kind: 'agent', agent, ...at(id) }] : [];
      }),
      ...typed.map((reference): Reference => ({ ...reference, ...at(reference.id) })),
    ];
    s.setReferences(known, { fit: known.length > stood });
    stood = known.length;
  });
}

/** Numbers of the faces that are marked. */
function marked(faces: Uint8Array | null): number[] | null {
  if (!faces) return null;
  const numbers: number[] = [];
  faces.forEach((mark, face) => mark && numbers.push(face));
  return numbers;
}

export const sameFields = <T extends object>(a: T, b: T): boolean =>
  (Object.keys(a) as (keyof T)[]).every((key) => a[key] === b[key]);
