import { TestBed } from '@angular/core/testing';
import type { Added, YardWithPieces } from '@yard-brace/contract';
import { FIRST_AGENTS } from '@yard-brace/core';
import { Api } from '../api/api';
import { Compute, Stopped } from '../compute/compute';
import { Told } from '../shell/told';
import { postDocument, savedPost } from '../testing/post';
import { ImportReports } from './import-report';
import { deliveredText, ShelfStore } from './shelf-store';

const yard = (): YardWithPieces => ({
  id: 1,
  name: 'Yard',
  pieces: 0,
  changedAt: '2026-01-01T10:00:00.000Z',
  rules: { gridMetres: 4, target: 'prefix-tags', agents: [...FIRST_AGENTS], pixelsPerMetre: 512 },
  shelf: [],
});

describe('ShelfStore', () => {
  let store: ShelfStore;
  let reports: ImportReports;
  let next: number;
  const read = jasmine.createSpy('run');
  const states = () => reports.report$.value!.entries.map(({ name, state }) => `${name} ${state}`);
  const files = (...names: string[]) => names.map((name) => new File(['x'], name));
  const added = (): Added => ({ ...savedPost(1), id: ++next, name: `Post ${next}` });
  const api = {
    yard: jasmine.createSpy('yard'),
    addPiece: async () => added(),
    piece: async () => Promise.reject(new Error('no picture here')),
  };

  beforeEach(async () => {
    next = 0;
    let shelf = yard();
    api.yard.calls.reset();
    api.yard.and.callFake(async () => (shelf = { ...shelf, shelf: store?.yard$.value?.shelf ?? [] }));
    read.and.resolveTo(postDocument());
    TestBed.configureTestingModule({
      providers: [
        { provide: Api, useValue: api },
        { provide: Compute, useValue: { run: read } },
      ],
    });
    store = TestBed.inject(ShelfStore);
    reports = TestBed.inject(ImportReports);
    await store.load(1);
  });

  it('shows each piece as soon as it is read, and reports on every file', async () => {
    const seen: number[] = [];
    read.and.callFake(async () => {
      seen.push(store.yard$.value!.shelf.length);
      if (seen.length === 2) throw new Told('b.obj: the file is empty; export it again.');
      return postDocument();
    });
    expect(await store.bringIn(1, files('a.obj', 'b.obj', 'c.obj', 'd.fbx', 'notes.txt'))).toEqual([1, 2]);
    expect(seen).toEqual([0, 1, 1]);
    expect(states()).toEqual([
      'a.obj read',
      'b.obj refused',
      'c.obj read',
      'd.fbx ignored',
      'notes.txt ignored',
    ]);
    expect(reports.report$.value!.entries[3]!.why).toContain('closed format');
    expect([reports.open$.value, reports.report$.value!.running]).toEqual([true, false]);
    reports.dismiss();
    expect(reports.open$.value).toBeFalse();
    reports.show();
    expect(reports.open$.value).toBeTrue();
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

  it('says of every file that a stop left it out', async () => {
    read.and.rejectWith(new Stopped('Stopped.'));
    await store.bringIn(1, files('a.obj', 'b.obj'));
    expect(states()).toEqual(['a.obj stopped', 'b.obj stopped']);
  });

  it('takes what a save answers into the shelf, with what it means for others, and asks for nothing', async () => {
    await store.bringIn(1, files('a.obj', 'b.obj'));
    const asked = api.yard.calls.count();
    const tally = (id: number) => store.yard$.value!.shelf.find((piece) => piece.id === id)!.tally.names;
    expect([tally(1), tally(2)]).toEqual(['look', 'look']);
    const { facts } = savedPost(2);
    store.put({ id: 2, name: 'Other', facts: { ...facts, meshName: 'Other' } });
    expect([tally(1), tally(2)]).toEqual(['clear', 'clear']);
    expect(api.yard.calls.count()).toBe(asked);
  });
});
