import { createServer } from 'node:http';
import type { AddressInfo, Socket } from 'node:net';
import { FIRST_RULES } from '@yard-brace/core';
import { fillSampleYard } from './fill.js';
import { samplePieces } from './sample-yard.js';

jasmine.DEFAULT_TIMEOUT_INTERVAL = 120_000;

describe('filling an empty house with the sample yard', () => {
  it('asks over a connection of its own each time, however long a piece takes to read meanwhile', async () => {
    const sockets = new Set<Socket>();
    const asked: string[] = [];
    const server = createServer((request, response) => {
      sockets.add(request.socket);
      asked.push(`${request.method} ${request.url!.replace(/[0-9a-f]{64}/, 'blob')}`);
      request.resume();
      request.on('end', () => {
        response.setHeader('content-type', 'application/json');
        if (request.method === 'GET') response.end('[]');
        else if (request.url === '/api/yards') response.end(JSON.stringify(yard));
        // The answer to a new piece: its number.
        else response.end(JSON.stringify({ id: asked.length }));
      });
    });
    const yard = {
      id: 3,
      name: 'Saltgate Slip',
      rules: FIRST_RULES,
      rulesVersion: 1,
      pieces: 0,
      changedAt: '2026-01-01T00:00:00.000Z',
    };
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const said: string[] = [];
    try {
      const { port } = server.address() as AddressInfo;
      await fillSampleYard(`http://127.0.0.1:${port}`, { say: (line) => said.push(line) });
    } finally {
      server.close();
    }
    const names = (await samplePieces()).map(({ name }) => name);
    expect(said).toEqual(names.map((name) => `Importing ${name} …`));
    // The other hand of the corner comes beside what was imported, and all are laid out last.
    expect(asked.filter((line) => line === 'POST /api/yards/3/pieces').length).toBe(names.length + 1);
    expect(asked.at(-1)).toBe('POST /api/yards/3/set-outs');
    expect(sockets.size).toBe(asked.length);
  });
});
