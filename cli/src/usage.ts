/** What the person typed cannot be done as typed. */
export class UsageError extends Error {
  override readonly name = 'UsageError';
}

const GENERAL = `yard-brace COMMAND

Commands:
  inspect FILE…          what a file holds: size, units, tree, materials, faults
  deliver FILE…          wrap, name and write a delivery for a target
  readback FILE…         what an importer makes of delivered files
  mend FILE…             weld, remove, fill, turn, reduce, make normals anew
  bake FILE…             put transforms into the vertices; nothing moves
  pivot FILE…            bring the pivot to the origin and say where it was
  split FILE…            parts by shells or by material
  hull FILE              the convex hull, kept to a number of corners
  decompose FILE         convex shapes for a piece, as a ladder of counts
  compare ART PROXIES    how far proxies lie from the art, what they fill and leave bare
  judge FILE             whether each shape is closed and convex, and what an importer would fill

yard-brace COMMAND --help says more. Results are one JSON line on stdout, messages go to stderr.
Exit 0: done. 1: findings that stop. 2: bad input or usage.`;

export const USAGE: Record<string, string> = {
  '': GENERAL,
  inspect: `yard-brace inspect FILE [BESIDE…] [--unit m|cm|mm|in|ft]

Reads FILE (OBJ, GLB, glTF, COLLADA, STL, PLY). Files named after it stand beside it: material libraries, buffers,
pictures; those in the same folder are found by themselves. Sizes are in metres.

  --unit   unit of the file; default: what the format states, or the likely one`,
  deliver: `yard-brace deliver FILE [BESIDE…] --target prefix-tags --proxies KIND --out DIR
                   [--pivot base-centre|centre|origin] [--name NAME] [--unit m|cm|mm|in|ft]

  --target   target profile: prefix-tags
  --proxies  hull, box (one round everything), hull-per-part, box-per-part
  --pivot    where the pivot goes; default: base-centre
  --name     name of the mesh; default: from the file name
  --unit     unit of the file; default: what the format states; a file that states none needs it
  --out      folder for the files; made when missing, files of the same name are replaced`,
  readback: `yard-brace readback FILE… --target prefix-tags

Decides from the bytes of delivered files alone what a level would get.`,
  mend: `yard-brace mend FILE [BESIDE…] --out FILE [--weld MM] [--remove KINDS] [--fill-holes [--longest METRES]]
                [--outward] [--share SHARE | --error METRES] [--normals DEGREES] [--part NAME] [--unit m|cm|mm|in|ft]
Mends are done in this order, whatever the order of the options. One that finds nothing to do is said and skipped.
  --out         file to write: .obj .glb .gltf .dae .stl .ply; what the format cannot carry is listed as "lost"
  --weld        millimetres within which vertices become one
  --remove      doubled, hidden, zero-area, specks, unused; several with commas
  --fill-holes  close open borders; with --longest only those shorter round than so many metres
  --outward     turn faces so that neighbours agree and shells look outward
  --share       reduce to this share of the triangles, 0 to 1
  --error       reduce as far as the surface moves no more than so many metres
  --normals     make normals anew: edges above so many degrees are hard
  --part        only this part; default: every part`,
  bake: `yard-brace bake FILE [BESIDE…] --out FILE [--part NAME] [--keep position,rotation] [--unit m|cm|mm|in|ft]
Puts position, rotation and scale into the vertices: every node then says 0, 0, 1, and nothing has moved.
  --keep   what stays on the nodes
  --part   only this part with all below it; default: the whole tree, unit included`,
  pivot: `yard-brace pivot FILE [BESIDE…] --out FILE [--at ANCHOR | --at X,Y,Z] [--unit m|cm|mm|in|ft]
Writes the piece with its pivot at the origin; the result says where that sat.
  --at   base-centre (default), centre, origin, as-it-came, lowest-contact, centroid, or three numbers in metres`,
  split: `yard-brace split FILE [BESIDE…] --out FILE --by shells|materials [--part NAME] [--smallest METRES] [--unit m|cm|mm|in|ft]
Takes parts apart; each new one is named, counts up and stays where it was.
  --smallest   shells smaller than this stay with their neighbour`,
  hull: `yard-brace hull FILE [--max-verts N] [--side outside|inside|between] [--out OBJ]
The convex hull of all triangles, in the unit of the file. Exit 1: the points are flat and have none ("span" says how).
  --max-verts  at most so many corners, 4 or more
  --side       with --max-verts: outside contains everything and grows little (default), inside lies within,
               between keeps the volume
  --out        the hull as OBJ`,
  decompose: `yard-brace decompose FILE [--max-shapes N] [--max-verts N] [--agent-detail METRES] [--clearance x,y,z,sx,sy,sz]…
                     [--no-primitives] [--no-crossing] [--rung N] [--out OBJ]
Breaks all triangles into convex shapes. Lengths are in the unit of the file.
  --max-shapes     shapes on the highest rung, 1 to 64; default: 32
  --max-verts      corners of a hull at most, 4 or more; default: 32
  --agent-detail   below this length detail does not matter; the first rung within it is "goodEnough"
  --clearance      centre and size of a box that nothing may enter; may be given again
  --no-primitives  hulls, and boxes only where they are exact
  --no-crossing    shapes meet within a tenth of a millimetre and do not go into each other
  --rung           the rung with at most so many shapes; default: the one that deviates least
  --out            the rung's shapes as OBJ, one group each`,
  compare: `yard-brace compare ART PROXIES
Every mesh of PROXIES counts as its convex hull, as importers take it; those that cave in are listed in "cavedIn".
"artOutside": art that no proxy covers; "proxyOutside": proxies where no art is; volumes in cubic units of the file.`,
  judge: `yard-brace judge FILE
Every mesh of FILE by itself. "cavesIn" lists its faces below the hull, "filled" is the volume an importer would add.
Exit 1: one of them is open or not convex.`,
};
