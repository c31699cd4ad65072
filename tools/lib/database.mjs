import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { endProcess, freePort, isOurs, pause } from './processes.mjs';
import { Stop } from './say.mjs';
import { shell, which } from './shell.mjs';

/**
 * A MariaDB server of our own: own data folder, own port on loopback, own password. It never touches a
 * server that is there already.
 */
export class Database {
  #child;
  #folder;
  #socketFolder;
  port;
  passwordFile;
  /** called when the server ends without having been asked to */
  onLost = () => undefined;

  constructor(folder) {
    this.#folder = folder;
    this.passwordFile = join(folder, 'password');
  }

  get pid() {
    return this.#child?.pid;
  }

  async start() {
    mkdirSync(this.#folder, { recursive: true });
    if (!existsSync(this.passwordFile))
      writeFileSync(this.passwordFile, randomBytes(24).toString('hex'), { mode: 0o600 });
    await this.#endLeftOver();
    const data = join(this.#folder, 'data');
    const complete = join(this.#folder, 'installed');
    if (!existsSync(complete)) {
      rmSync(data, { recursive: true, force: true });
      await shell(
        which('mariadb-install-db', 'mysql_install_db'),
        [
          `--datadir=${data}`,
          '--auth-root-authentication-method=normal',
          '--skip-test-db',
          '--no-defaults',
          ...asUser(),
        ],
        { what: 'making the database' },
      );
      writeFileSync(complete, '');
    }
    this.port ??= await freePort();
    await this.#launch(data);
  }

  /** After an unexpected end: the same place, the same port. */
  restart() {
    return this.#launch(join(this.#folder, 'data'));
  }

  async stop() {
    this.onLost = () => undefined;
    if (this.#child?.exitCode === null) await endProcess(this.#child.pid);
    if (this.#socketFolder) rmSync(this.#socketFolder, { recursive: true, force: true });
  }

  async #launch(data) {
    const password = readFileSync(this.passwordFile, 'utf8');
    const setUp = join(this.#folder, 'set-up.sql');
    writeFileSync(
      setUp,
      [
        'CREATE DATABASE IF NOT EXISTS yard_brace CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci;',
        `CREATE OR REPLACE USER 'yard'@'127.0.0.1' IDENTIFIED BY '${password}';`,
        `CREATE OR REPLACE USER 'yard'@'localhost' IDENTIFIED BY '${password}';`,
        "GRANT ALL ON yard_brace.* TO 'yard'@'127.0.0.1';",
        "GRANT ALL ON yard_brace.* TO 'yard'@'localhost';",
        `ALTER USER 'root'@'localhost' IDENTIFIED BY '${password}';`,
        '',
      ].join('\n'),
      { mode: 0o600 },
    );
    // A socket path may have 107 characters at most, so it does not stand in the data folder.
    this.#socketFolder ??= mkdtempSync(join(tmpdir(), 'yard-brace-'));
    const child = spawn(
      which('mariadbd', 'mysqld'),
      [
        '--no-defaults',
        ...asUser(),
        `--datadir=${data}`,
        `--socket=${join(this.#socketFolder, 'db.sock')}`,
        `--port=${this.port}`,
        '--bind-address=127.0.0.1',
        `--pid-file=${join(this.#folder, 'pid')}`,
        `--log-error=${join(this.#folder, 'error.log')}`,
        `--init-file=${setUp}`,
        '--character-set-server=utf8mb4',
        '--collation-server=utf8mb4_unicode_ci',
        '--max-allowed-packet=64M',
        '--skip-name-resolve',
        '--skip-log-bin',
        '--innodb-buffer-pool-size=256M',
      ],
      { stdio: 'ignore', detached: true },
    );
    this.#child = child;
    child.once('exit', () => child === this.#child && this.onLost());
    const until = Date.now() + 60000;
    while (!(await answers(this.port))) {
      if (child.exitCode !== null || Date.now() > until) {
        throw new Stop(
          `The database did not start; its last words stand in ${join(this.#folder, 'error.log')}.`,
        );
      }
      await pause(50);
    }
  }

  /** A server that a killed starter left behind holds the data folder. */
  async #endLeftOver() {
    const file = join(this.#folder, 'pid');
    const pid = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
    if (isOurs(pid, `--datadir=${join(this.#folder, 'data')}`)) await endProcess(pid);
  }
}

/** The server refuses to run as root unless told so. */
const asUser = () => (process.getuid?.() === 0 ? ['--user=root'] : []);

/** True once the server greets: it listens only after its set-up has run. */
function answers(port) {
  return new Promise((resolve) => {
    const socket = createConnection(port, '127.0.0.1');
    const done = (result) => {
      socket.destroy();
      resolve(result);
    };
    socket.once('data', () => done(true));
    socket.once('error', () => done(false));
    socket.setTimeout(1000, () => done(false));
  });
}
