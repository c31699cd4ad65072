import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { rotatingLog } from './rotating-log.js';

describe('the log', () => {
  let folder: string;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), `yard-brace-log-${process.pid}-`))));
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  it('is private, goes on where it was, and is put behind when it is full', () => {
    const file = join(folder, 'log', 'server.log');
    const log = rotatingLog(file, { maxBytes: 100, kept: 2 });
    for (let i = 0; i < 60; i++) log.write(`line ${i}\n`);
    for (const name of [file, `${file}.1`, `${file}.2`]) {
      expect((statSync(name).mode & 0o777).toString(8)).toBe('600');
      expect(statSync(name).size).toBeLessThan(120);
    }
    expect(existsSync(`${file}.3`)).toBeFalse();
    expect((statSync(join(folder, 'log')).mode & 0o777).toString(8)).toBe('700');
    expect(readFileSync(`${file}.1`, 'utf8') + readFileSync(file, 'utf8')).toMatch(/line 58\nline 59\n$/);
    rotatingLog(file, { maxBytes: 1000 }).write('again\n');
    expect(readFileSync(file, 'utf8')).toMatch(/line 59\nagain\n$/);
  });

  it('loses what cannot be written, and whoever logs goes on', () => {
    const file = join(folder, 'gone', 'server.log');
    const log = rotatingLog(file, { maxBytes: 10 });
    rmSync(join(folder, 'gone'), { recursive: true });
    expect(() => {
      for (let i = 0; i < 5; i++) log.write('a line that is long enough\n');
    }).not.toThrow();
  });
});
