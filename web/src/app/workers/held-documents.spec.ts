import type { PieceDocument } from '@yard-brace/core';
import { standInWorker, type StandIn } from '../testing/stand-in-worker';
import { keepingDocuments } from './held-documents';
import { WorkerHost } from './worker-host';

interface Jobs {
  names(first: object, second: unknown): Promise<unknown>;
}

/** As much of a document as tells what is one. */
const documentOf = (name: string) =>
  ({ name, nodes: [{ id: name }], clearances: [] }) as unknown as PieceDocument;

describe('Documents held by a worker', () => {
  let workers: StandIn[];
  let posted: string[];
  let host: WorkerHost<Jobs>;

  beforeEach(() => {
    [workers, posted] = [[], []];
    host = new WorkerHost<Jobs>(() => {
      const seen = new Set<object>();
      const jobs: Jobs = {
        names: async (first, second) => {
          const again = seen.has(first);
          seen.add(first);
          return [first, second, again];
        },
      };
      const worker = standInWorker(keepingDocuments(jobs));
      const post = worker.postMessage;
      worker.postMessage = ((message: unknown, ...rest: [Transferable[]]) => {
        posted.push(JSON.stringify(message));
        post(message, ...rest);
      }) as StandIn['postMessage'];
      workers.push(worker);
      return worker;
    });
  });

  const names = (first: object, second: unknown = 1) => host.run((jobs) => jobs.names(first, second)).result;

  it('go once, and are the same object for every job', async () => {
    const wall = documentOf('wall');
    expect(await names(wall)).toEqual([wall, 1, false]);
    expect(await names(wall, { nodes: 'no document' })).toEqual([wall, { nodes: 'no document' }, true]);
    expect(posted.map((message) => message.includes('"wall"'))).toEqual([true, false]);
  });

  it('that were not asked about for longest are let go, and go again when they are', async () => {
    const all = ['wall', 'stair', 'gate', 'winch', 'tray'].map(documentOf);
    for (const each of all.slice(0, 4)) await names(each);
    await names(all[0]!);
    // Room for the fifth is made by the stair, which nobody asked about since.
    for (const each of all.slice(4)) expect(await names(each)).toEqual([each, 1, false]);
    expect(await names(all[0]!)).toEqual([all[0], 1, true]);
    expect(await names(all[1]!)).toEqual([all[1], 1, false]);
    expect(posted.filter((message) => message.includes('"stair"')).length).toBe(2);
    expect(posted.filter((message) => message.includes('"wall"')).length).toBe(1);
  });

  it('go again to the worker that takes the place of one that broke', async () => {
    const wall = documentOf('wall');
    await names(wall);
    workers[0]!.crash();
    expect(await names(wall)).toEqual([wall, 1, false]);
    expect(workers.length).toBe(2);
  });

  it('of two pieces in one question are told apart', async () => {
    const [wall, stair] = [documentOf('wall'), documentOf('stair')];
    expect(await names(wall, stair)).toEqual([wall, stair, false]);
    expect(await names(stair, wall)).toEqual([stair, wall, false]);
  });
});
