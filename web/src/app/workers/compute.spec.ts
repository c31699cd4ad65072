import { TestBed } from '@angular/core/testing';
import { gate, type StandIn, standInWorker } from '../testing/stand-in-worker';
import { Compute, START_TRIAL_WORKER, START_WORKER, Stopped } from './compute';

/** The jobs of these specs stand in for the real ones: what matters is which task waits for which. */
type Anything = { [job: string]: (...args: unknown[]) => Promise<unknown> };

describe('Compute', () => {
  let workers: StandIn[];
  let gates: Map<string, ReturnType<typeof gate>>;
  let compute: Compute;

  beforeEach(() => {
    workers = [];
    gates = new Map();
    const jobs = {
      work: async (name: string, tell: (share: number, what: string) => void) => {
        tell(0.5, `Half of ${name}`);
        await gates.get(name)?.opened;
        return name;
      },
      quick: async () => 'walked',
      breaks: async () => {
        throw new Error('memory access out of bounds');
      },
    };
    const start = () => {
      const worker = standInWorker(jobs);
      workers.push(worker);
      return worker;
    };
    TestBed.configureTestingModule({
      providers: [
        { provide: START_WORKER, useValue: start },
        { provide: START_TRIAL_WORKER, useValue: start },
      ],
    });
    compute = TestBed.inject(Compute);
  });

  const run = (name: string, { quick = false, aside = false, gated = true } = {}): Promise<unknown> => {
    if (gated) gates.set(name, gate());
    return compute.run((worker, progress) => (worker as unknown as Anything)['work']!(name, progress), {
      first: name,
      quick,
      aside,
    });
  };
  const until = async (condition: () => boolean) => {
    for (let i = 0; i < 200 && !condition(); i++) await new Promise((resolve) => setTimeout(resolve));
    expect(condition()).toBeTrue();
  };

  it('answers the view while long work runs, and shows the long work', async () => {
    const ladder = run('ladder');
    expect(await run('draw', { quick: true, gated: false })).toBe('draw');
    await until(() => compute.task?.share === 0.5);
    expect(compute.task).toEqual({ what: 'Half of ladder', share: 0.5, stop: jasmine.any(Function) });
    gates.get('ladder')!.open();
    expect(await ladder).toBe('ladder');
    expect(compute.task).toBeNull();
  });

  it('answers the view while a picture is taken, which waits for no long work either', async () => {
    const picture = run('picture', { aside: true });
    const imports = [run('first'), run('second')];
    expect(await run('draw', { quick: true, gated: false })).toBe('draw');
    gates.get('picture')!.open();
    expect(await picture).toBe('picture');
    gates.get('first')!.open();
    gates.get('second')!.open();
    expect(await Promise.all(imports)).toEqual(['first', 'second']);
  });

  it('runs two long tasks at once; a third waits its turn', async () => {
    const tasks = ['import', 'ladder', 'wrap'].map((name) => run(name));
    await until(() => workers.length === 2);
    gates.get('ladder')!.open();
    expect(await tasks[1]).toBe('ladder');
    gates.get('import')!.open();
    gates.get('wrap')!.open();
    expect(await Promise.all(tasks)).toEqual(['import', 'ladder', 'wrap']);
    expect(workers.length).toBe(2);
  });

  it('stops the task that is shown and leaves the others alone', async () => {
    const first = run('import');
    const second = run('ladder');
    await until(() => compute.task?.what === 'Half of import');
    compute.task!.stop!();
    await expectAsync(first).toBeRejectedWithError(Stopped);
    expect(compute.task?.what).toContain('ladder');
    gates.get('ladder')!.open();
    expect(await second).toBe('ladder');
  });

  it('offers no stop for answers to the view', async () => {
    const drawing = run('draw', { quick: true });
    expect(compute.task?.stop).toBeNull();
    gates.get('draw')!.open();
    await drawing;
  });

  it('a word that comes after the end of its task is not shown', async () => {
    let late!: (share: number, what: string) => void;
    await compute.run(async (_, progress) => {
      late = progress;
    });
    late(0.9, 'too late');
    expect(compute.task).toBeNull();
  });

  it('is idle when nothing is worked on, at once or later', async () => {
    await compute.idle();
    const drawing = run('draw', { quick: true });
    let idle = false;
    void compute.idle().then(() => (idle = true));
    await Promise.resolve();
    expect(idle).toBeFalse();
    gates.get('draw')!.open();
    await drawing;
    await until(() => idle);
  });

  it('gives trials an engine of their own, and another one after it broke', async () => {
    const trial = (name: string) =>
      compute.runTrial((worker, progress) => (worker as unknown as Anything)[name]!('trial', progress), {
        first: name,
      });
    expect(await trial('work')).toBe('trial');
    expect(workers.length).toBe(1);
    await expectAsync(trial('breaks')).toBeRejected();
    expect(workers[0]!.gone).toBeTrue();
    expect(await trial('work')).toBe('trial');
    expect(workers.length).toBe(2);
    // A walk by hand waits for no trial.
    gates.set('trial', gate());
    const long = trial('work');
    expect(await compute.walk((worker) => (worker as unknown as Anything)['quick']!())).toBe('walked');
    gates.get('trial')!.open();
    expect(await long).toBe('trial');
  });
});
