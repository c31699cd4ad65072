import { routes } from '@yard-brace/contract';
import { delivered, savedPost } from '../testing/post';
import { Api, type ApiError } from './api';
import { getBlob } from './get-blob';
import { putBlob } from './put-blob';
import { Told } from './told';

/** What the server answers; the request that was sent is kept. */
function answers(status: number, body: unknown): jasmine.Spy {
  const text = typeof body === 'string' ? body : JSON.stringify(body);
  return spyOn(window, 'fetch').and.callFake(
    async () => new Response(status === 204 ? null : text, { status }),
  );
}
const refused = (work: Promise<unknown>) =>
  work.then(
    () => {
      throw new Error('it was not refused');
    },
    (error: unknown) => error as ApiError,
  );

interface StandInRequest {
  upload: { onprogress?: (event: { loaded: number }) => void };
  open: () => void;
  setRequestHeader: () => void;
  send: () => void;
  status: number;
  responseText: string;
  onload?: () => void;
  onerror?: () => void;
}

describe('the API client', () => {
  const api = new Api();

  it('sends JSON with the method and the address, and checks what comes back', async () => {
    const fetched = answers(200, savedPost(4));
    const saved = await api.savePiece(7, 3, { steps: { kept: [], added: [] } as never });
    expect(saved.version).toBe(4);
    const [path, request] = fetched.calls.mostRecent().args as [string, RequestInit];
    expect([path, request.method]).toEqual([routes.piece(7), 'PUT']);
    expect(JSON.parse(request.body as string)).toEqual({ version: 3, steps: { kept: [], added: [] } });
    expect((request.headers as Record<string, string>)['content-type']).toBe('application/json');
  });

  it('lists the newest deliveries, or those before one', async () => {
    const fetched = answers(200, { deliveries: [delivered(2)], more: 1 });
    expect((await api.deliveries(5)).more).toBe(1);
    await api.deliveries(5, 2);
    expect(fetched.calls.allArgs().map(([path]) => path)).toEqual([
      routes.pieceDeliveries(5),
      routes.deliveriesBefore(5, 2),
    ]);
  });

  it('an answer that breaks the contract is not passed on', async () => {
    answers(200, { version: 'four' });
    const error = await refused(api.restore(1, 1, 1));
    expect(error).not.toBeInstanceOf(Told);
  });

  it('a refusal is told with its sentence, and a conflict with what is there instead', async () => {
    answers(507, { code: 'full', message: 'The disk is full.' });
    const full = await refused(api.createYard('x'));
    expect([full.code, full.message, full.conflict]).toEqual(['full', 'The disk is full.', undefined]);
    (window.fetch as jasmine.Spy).and.resolveTo(
      new Response(
        JSON.stringify({
          code: 'conflict',
          message: 'Somebody was first.',
          version: 9,
          savedAt: '2026-01-01T10:00:00.000Z',
        }),
        { status: 409 },
      ),
    );
    const conflict = await refused(api.savePiece(1, 1, { history: {} as never }));
    expect([conflict.code, conflict.conflict!.version]).toEqual(['conflict', 9]);
  });

  it('what is no answer of ours gets a sentence all the same; an aborted request stays aborted', async () => {
    answers(502, '<html>bad gateway</html>');
    expect((await refused(api.yards())).message).toContain('gave no reason');
    const fetched = window.fetch as jasmine.Spy;
    fetched.and.rejectWith(new TypeError('Failed to fetch'));
    const away = await refused(api.yards());
    expect([away.code, away.message]).toEqual(['unavailable', 'The server cannot be reached just now.']);
    fetched.and.rejectWith(new DOMException('aborted', 'AbortError'));
    expect((await refused(api.deliver(1, { version: 1, target: 'x' }))).name).toBe('AbortError');
  });

  it('a picture is stored first, then put on its piece', async () => {
    const fetched = spyOn(window, 'fetch').and.callFake(async (path) =>
      String(path) === routes.blob('a'.repeat(64))
        ? new Response(JSON.stringify({ id: 'a'.repeat(64), bytes: 3 }))
        : new Response(null, { status: 204 }),
    );
    await api.setPicture(1, 'a'.repeat(64), new Uint8Array(3));
    expect(fetched.calls.allArgs().map(([path]) => path as string)).toEqual([
      routes.blob('a'.repeat(64)),
      routes.piecePicture(1),
    ]);
  });
});

describe('stored bytes', () => {
  it('come by their name, or a sentence says why not', async () => {
    const fetched = spyOn(window, 'fetch').and.resolveTo(new Response(Uint8Array.of(1, 2)));
    expect([...(await getBlob('b'))]).toEqual([1, 2]);
    fetched.and.resolveTo(new Response(null, { status: 404 }));
    expect((await refused(getBlob('b'))).message).toContain('no longer has the bytes');
    fetched.and.rejectWith(new TypeError('Failed to fetch'));
    expect((await refused(getBlob('b'))).message).toContain('just now');
  });

  describe('going out', () => {
    /** Requests that answer in turn: a status with a text, or null for no answer at all. */
    const stand = (...turns: ([number, string] | null)[]) => {
      let asked = 0;
      spyOn(window, 'XMLHttpRequest').and.callFake(function () {
        const turn = turns[asked++]!;
        const request: StandInRequest = {
          upload: {},
          open: () => undefined,
          setRequestHeader: () => undefined,
          send: () =>
            queueMicrotask(() => {
              request.upload.onprogress?.({ loaded: 2 });
              (turn ? request.onload : request.onerror)?.();
            }),
          status: turn?.[0] ?? 0,
          responseText: turn?.[1] ?? '',
        };
        return request as never;
      } as never);
      return () => asked;
    };
    beforeEach(() => jasmine.clock().install());
    afterEach(() => jasmine.clock().uninstall());
    const settle = async () => {
      for (let i = 0; i < 10; i++) await Promise.resolve();
      jasmine.clock().tick(2000);
      for (let i = 0; i < 10; i++) await Promise.resolve();
    };
    const put = async () => {
      const sent: number[] = [];
      const result = putBlob('c', new Blob(['xx']), (bytes) => sent.push(bytes)).then(
        () => 'stored',
        (error: Error) => error.message,
      );
      await settle();
      return [await result, sent.length] as const;
    };

    it('tell how many are there', async () => {
      const asked = stand([200, '{}']);
      expect([...(await put()), asked()]).toEqual(['stored', 1, 1]);
    });

    it('are sent once more when the server was away for a moment, and only then', async () => {
      const asked = stand(null, [200, '{}']);
      expect([(await put())[0], asked()]).toEqual(['stored', 2]);
    });

    it('are refused with the server’s sentence, at once', async () => {
      const asked = stand([507, JSON.stringify({ code: 'full', message: 'The disk is full.' })]);
      expect([(await put())[0], asked()]).toEqual(['The disk is full.', 1]);
    });

    it('say so when the server stays away, or gives no reason', async () => {
      stand(null, null);
      expect((await put())[0]).toContain('cannot be reached just now');
      (window.XMLHttpRequest as unknown as jasmine.Spy).and.callThrough();
    });

    it('say so when the server gives no reason', async () => {
      stand([400, 'no']);
      expect((await put())[0]).toContain('gave no reason');
    });
  });
});
