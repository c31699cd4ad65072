import { TestBed } from '@angular/core/testing';
import { type Added, MAX_MESH_FILES } from '@yard-brace/contract';
import { applyEdit, FIRST_RULES, replaceProxies } from '@yard-brace/core';
import { Api, ApiError } from '../api/api';
import { Told } from '../api/told';
import { FakeApi } from '../testing/fake-api';
import { HandClock, settle } from '../testing/hand-clock';
import { postDocument, savedPost } from '../testing/post';
import { shown } from '../testing/shown';
import { Compute, Stopped } from '../workers/compute';
import { Clock } from './clock';
import { ImportReports, importSummary } from './import-report';
import { Importer, READ_BY_PAGE } from './importer';
import { NewArtDesk } from './new-art-desk';
import { Notices } from './notices';
import { PICTURE_AFTER_MS, PiecePictures } from './piece-pictures';
import { deliveredText, ShelfStore } from './shelf-store';

describe('the shelf', () => {
  let api: FakeApi;
  let shelf: ShelfStore;
  let importer: Importer;
  let reports: ImportReports;
  let next: number;
  let yard: FakeApi['yard'];
  const run = jasmine.createSpy('run');
  const idle = jasmine.createSpy('idle');
  const states = () => reports.report!.entries.map(({ name, state }) => `${name} ${state}`);
  const files = (...names: string[]) => names.map((name) => new File(['x'], name));
  const pieces = () => shelf.yard!.shelf;

  beforeEach(async () => {
    next = 0;
    api = new FakeApi();
    api.addPiece = async (): Promise<Added> => ({ ...savedPost(1), id: ++next, name: `Post ${next}` });
    // The server has what has appeared meanwhile.
    yard = api.yard;
    api.yard = async (id) => ({ ...(await yard(id)), shelf: shelf?.yard?.shelf ?? [] });
    spyOn(api, 'yard').and.callThrough();
    run.and.resolveTo(postDocument());
    idle.and.resolveTo();
    TestBed.configureTestingModule({
      providers: [
        { provide: Api, useValue: api },
        { provide: Compute, useValue: { run, idle } },
        { provide: Clock, useClass: HandClock },
      ],
    });
    shelf = TestBed.inject(ShelfStore);
    importer = TestBed.inject(Importer);
    reports = TestBed.inject(ImportReports);
    await shelf.load(1);
  });

  it('a piece that is nothing to others stays the very same when another is saved', async () => {
    const { facts: saved } = savedPost(1);
    const facts = { ...saved, tally: { ...saved.tally, names: 'clear' as const } };
    for (const name of ['a', 'b', 'c'])
      shelf.appear(1, { ...savedPost(1), id: ++next, name, facts: { ...facts, meshName: name } });
    const before = pieces();
    shelf.put({ id: 2, facts: { ...facts, meshName: 'b', shapes: 7 } });
    expect(pieces().map((piece, i) => piece === before[i])).toEqual([true, false, true]);
    shelf.put({ id: 2, facts: { ...facts, meshName: 'a' } });
    // Two of one name: the other is looked at as well.
    expect(pieces().map(({ tally }) => tally.names)).toEqual(['look', 'look', 'clear']);
  });

  describe('importing', () => {
    it('shows each piece as soon as it is read, and reports on every file', async () => {
      const seen: number[] = [];
      run.and.callFake(async () => {
        seen.push(pieces().length);
        if (seen.length === 2) throw new Told('b.obj: the file is empty; export it again.');
        return postDocument();
      });
      expect(await importer.import(1, files('a.obj', 'b.obj', 'c.obj', 'd.fbx', 'notes.txt'))).toEqual([
        1, 2,
      ]);
      expect(seen).toEqual([0, 1, 1]);
      expect(states()).toEqual([
        'a.obj read',
        'b.obj refused',
        'c.obj read',
        'd.fbx ignored',
        'notes.txt ignored',
      ]);
      expect(reports.report!.entries[3]!.why).toContain('closed format');
      expect([shown(reports.view$), reports.report!.running]).toEqual(['files', false]);
      reports.dismiss();
      expect(shown(reports.view$)).toBe('none');
      // What was dismissed is not folded into a line.
      reports.fold();
      expect(shown(reports.view$)).toBe('none');
      reports.show();
      expect(shown(reports.view$)).toBe('files');
    });

    it('asks what of a file is taken where that is wanted, before it is stored, and reads on meanwhile', async () => {
      reports.ask(true);
      const stored = spyOn(api, 'addPiece').and.callThrough();
      const ball = { kind: 'sphere' as const, center: [0, 0, 0] as [number, number, number], radius: 1 };
      const full = applyEdit(postDocument(), replaceProxies([{ id: 'a', shape: ball }]));
      run.and.returnValues(
        Promise.resolve(full),
        Promise.resolve(postDocument()),
        Promise.resolve(full),
        Promise.resolve(postDocument()),
      );
      const importing = importer.import(1, files('a.obj', 'b.obj', 'c.obj'));
      await settle();
      expect(states()).toEqual(['a.obj choosing', 'b.obj read', 'c.obj choosing']);
      expect([stored.calls.count(), shown(reports.view$)]).toEqual([1, 'files']);
      const [first, , third] = reports.report!.entries;
      expect(first!.extras.map(({ name }) => name)).toEqual(['sphere of the piece']);
      reports.answer(first!, new Set(['shape a']));
      await settle();
      run.and.rejectWith(new Told('The mesh cannot be fetched.'));
      reports.answer(third!, new Set(['shape a']));
      expect((await importing).length).toBe(2);
      expect(states()).toEqual(['a.obj read', 'b.obj read', 'c.obj refused']);
      expect(stored.calls.allArgs().every(([, history]) => history.base.proxies.length === 0)).toBeTrue();
      reports.ask(false);
      run.and.resolveTo(full);
      await importer.import(1, files('e.obj'));
      expect(states()).toEqual(['e.obj read']);
    });

    it('says of every file that a stop left it out', async () => {
      run.and.rejectWith(new Stopped('Stopped.'));
      await importer.import(1, files('a.obj', 'b.obj'));
      expect(states()).toEqual(['a.obj stopped', 'b.obj stopped']);
    });

    it('names new pieces by the patterns of the yard', async () => {
      const rules = { ...FIRST_RULES, names: { mesh: 'SM_{subject:pascal}_{variant:2}' } };
      api.yard = async (id) => ({ ...(await yard(id)), rules, shelf: [] });
      await shelf.load(1);
      const added = spyOn(api, 'addPiece').and.callThrough();
      await importer.import(1, files('post.obj'));
      expect(added.calls.mostRecent().args[1].base.meshName).toBe('SM_Post_01');
    });

    it('refuses more files than it can show, as one', async () => {
      const many = Array.from({ length: MAX_MESH_FILES + 1 }, (_, i) => `${i}.obj`);
      expect(await importer.import(1, files(...many))).toEqual([]);
      expect(reports.report!.entries[0]!.why).toContain('import fewer at a time');
      expect(run.calls.any() && pieces().length).toBeFalsy();
    });

    describe('more files than the page reads itself', () => {
      const many = Array.from({ length: READ_BY_PAGE + 1 }, (_, i) => `${i}.obj`);
      const stored = (of: readonly File[]) => of.map(({ name }) => ({ blob: name.padEnd(64, '0') }));
      /** The job that a call of the workers is for, done by a stand-in. */
      const sending = (answer: (files: File[]) => unknown) =>
        run.and.callFake((work: (jobs: object, progress: () => void) => unknown) =>
          work({ storeFiles: answer }, () => undefined),
        );

      it('sends them, has a job read them, and says which', async () => {
        const why = '1.obj: the file is empty; export it again.';
        sending(async (files) =>
          stored(files).map((each, i) => (files[i]!.name === '1.obj' ? { why } : each)),
        );
        expect(await importer.import(1, files(...many, 'yard.mtl', 'notes.txt'))).toEqual([]);
        const [sent] = api.imports;
        expect(sent!.files.length).toBe(many.length);
        expect(sent!.meshes.map((at) => sent!.files[at]!.name)).toEqual(many.filter((_, i) => i !== 1));
        const library = { name: 'yard.mtl', path: 'yard.mtl', blob: 'yard.mtl'.padEnd(64, '0') };
        expect(sent!.files).toContain(library);
        const { job, running } = reports.report!;
        expect([job, running]).toEqual([1, false]);
        expect(states().slice(0, 3)).toEqual(['0.obj handed-over', '1.obj refused', '2.obj handed-over']);
        expect(importSummary(reports.report!)).toBe(
          `${READ_BY_PAGE} of ${many.length + 1} files handed to a job, 1 refused, 1 ignored`,
        );
      });

      it('says of each why, where the server takes no job', async () => {
        const own = '1.obj: the file is empty; export it again.';
        sending(async (files) =>
          stored(files).map((each, i) => (files[i]!.name === '1.obj' ? { why: own } : each)),
        );
        api.beginImport = async () => {
          throw new Told('50 jobs are not at their end yet; wait for one of them.');
        };
        await importer.import(1, files(...many));
        expect(new Set(reports.report!.entries.map(({ state, why }) => `${state} ${why}`))).toEqual(
          new Set([`refused ${own}`, 'refused 50 jobs are not at their end yet; wait for one of them.']),
        );
      });

      it('leaves all out when the sending is stopped', async () => {
        run.and.rejectWith(new Stopped('Stopped.'));
        await importer.import(1, files(...many));
        expect([api.imports.length, new Set(states().map((state) => state.split(' ')[1]))]).toEqual([
          0,
          new Set(['stopped']),
        ]);
      });

      it('reads them itself where it asks what of each is taken', async () => {
        reports.ask(true);
        run.and.resolveTo(postDocument());
        expect((await importer.import(1, files(...many))).length).toBe(many.length);
        reports.ask(false);
        expect(api.imports).toEqual([]);
      });
    });

    it('asks what a file is that bears a name that came before, unless it is said to be new', async () => {
      await importer.import(1, files('post.obj'));
      expect(pieces().length).toBe(1);
      await importer.import(1, files('Post.OBJ'));
      expect(states()).toEqual(['Post.OBJ known']);
      const desk = TestBed.inject(NewArtDesk);
      const [arrived] = shown(desk.waiting$);
      expect(arrived!.pieces).toEqual([{ id: 1, name: 'Post 1' }]);
      desk.compare(arrived!, 1);
      expect(shown(desk.waiting$)).toEqual([]);
      expect(desk.take(2)).toBeNull();
      expect(desk.take(1)?.file).toBe(arrived!.file);
      expect(desk.take(1)).toBeNull();
      await importer.import(1, files('post.obj'), { asNew: true });
      expect(pieces().length).toBe(2);
    });
  });

  it('takes what a save answers, with what it means for others, and asks for nothing', async () => {
    await importer.import(1, files('a.obj', 'b.obj'));
    const asked = (api.yard as jasmine.Spy).calls.count();
    const tally = (id: number) => pieces().find((piece) => piece.id === id)!.tally.names;
    expect([tally(1), tally(2)]).toEqual(['look', 'look']);
    const { facts } = savedPost(2);
    shelf.put({ id: 2, name: 'Other', facts: { ...facts, meshName: 'Other' } });
    expect([tally(1), tally(2)]).toEqual(['clear', 'clear']);
    shelf.put({ id: 77, facts });
    expect(pieces().map(({ id }) => id)).toEqual([1, 2]);
    expect((api.yard as jasmine.Spy).calls.count()).toBe(asked);
  });

  it('forgets the last yard at once when another is opened', async () => {
    await importer.import(1, files('a.obj'));
    let answer!: () => void;
    const other = await yard(2);
    api.yard = () => new Promise((resolve) => (answer = () => resolve(other)));
    void shelf.load(2);
    expect(shelf.yard).toBeNull();
    answer();
    await settle();
    expect(shelf.yard).not.toBeNull();
  });

  it('removes and delivers one after the other; one that fails stops no other', async () => {
    await importer.import(1, files('a.obj', 'b.obj', 'c.obj'));
    const done: number[] = [];
    const act = async (id: number) => {
      if (id === 2) throw new Told('It is locked.');
      done.push(id);
    };
    Object.assign(api, {
      removePiece: act,
      deliver: async (id: number) => (await act(id), { agreed: id === 1 }),
    });
    await shelf.remove(pieces());
    expect(done).toEqual([1, 3]);
    const notices = TestBed.inject(Notices);
    expect(notices.notices.at(-1)!.text).toBe('Post 2: It is locked.');
    await shelf.deliver(pieces());
    expect(notices.notices.at(-1)!).toEqual(
      jasmine.objectContaining({
        bad: true,
        text: '2 pieces were delivered; 1 read back differently, as their delivery steps say: Post 3.',
      }),
    );
  });

  it('splits a piece into its pieces, and shows them', async () => {
    run.and.resolveTo([postDocument(), postDocument()]);
    const takeApart = jasmine.createSpy('takeApart').and.resolveTo([{}, {}]);
    Object.assign(api, { takeApart });
    const added = await shelf.splitIntoPieces({
      yardId: 1,
      id: 7,
      version: 3,
      document: postDocument(),
      remove: true,
    });
    expect(added).toBe(2);
    const [id, version, histories, remove] = takeApart.calls.mostRecent().args;
    expect([id, version, histories.length, remove]).toEqual([7, 3, 2, true]);
  });

  it('what one target refuses keeps no other from getting it', async () => {
    await importer.import(1, files('post.obj'));
    const rules = { ...FIRST_RULES, targets: ['prefix-tags', 'proxy-nodes', 'twin-file'] };
    api.yard = async (id) => ({ ...(await yard(id)), rules, shelf: pieces() });
    await shelf.load(1);
    const asked: string[] = [];
    api.deliver = async (_id: number, { target }) => {
      asked.push(target);
      if (target === 'proxy-nodes') throw new ApiError('refused', 'A name is illegal.');
      return { agreed: true } as never;
    };
    await shelf.deliver(pieces());
    expect(asked).toEqual(rules.targets);
    expect(TestBed.inject(Notices).notices.map(({ text }) => text)).toEqual([
      'Post 1 for proxy nodes: A name is illegal.',
      'Post 1 was delivered and read back as drawn.',
    ]);
  });

  it('says in one sentence what many deliveries came to', () => {
    const ok = { name: 'A', agreed: true };
    const off = { name: 'B', agreed: false };
    expect(deliveredText([ok])).toBe('A was delivered and read back as drawn.');
    expect(deliveredText([ok, ok])).toBe('2 pieces were delivered and read back as drawn.');
    expect(deliveredText([off])).toContain('its delivery step says where');
    expect(deliveredText([ok, off, off])).toBe(
      '3 pieces were delivered; 2 read back differently, as their delivery steps say: B, B.',
    );
  });

  describe('pictures', () => {
    it('are taken one after the other once nothing else is worked on; one that fails stops no other', async () => {
      const clock = TestBed.inject(Clock) as HandClock;
      const stored: number[] = [];
      Object.assign(api, { setPicture: async (id: number) => void stored.push(id) });
      const { piece } = api;
      api.piece = async (id) => (id === 2 ? Promise.reject(new Error('gone')) : piece(id));
      await importer.import(1, files('a.obj', 'b.obj', 'c.obj'));
      run.and.resolveTo(new Uint8Array([1]));
      TestBed.inject(PiecePictures);
      expect(stored).toEqual([]);
      for (let i = 0; i < 3; i++) await clock.move(PICTURE_AFTER_MS);
      expect(stored).toEqual([1, 3]);
      expect(pieces().map(({ picture }) => picture !== null)).toEqual([true, false, true]);
      expect(idle).toHaveBeenCalled();
    });
  });
});
