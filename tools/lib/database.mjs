import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { join } from 'node:path';
import { databaseAccount, giveTo } from './account.mjs';
import { diskFault } from './disk.mjs';
import { endProcess, freePort, isOurs, pause } from './processes.mjs';
import { Stop } from './say.mjs';
import { shell, which } from './shell.mjs';
import { temporaryFolder } from './temporary.mjs';

/** What the application does with its own database, and no more. */
const RIGHTS = 'SELECT, INSERT, UPDATE, DELETE, CREATE, ALTER, DROP, INDEX, REFERENCES, LOCK TABLES';

/**
 * A MariaDB server of our own: own data folder, own port on loopback, own password. It never touches a
 * server that is there already.
 */
export class Database {
  #child;
  #folder;
  #socketFolder;
  #account = null;
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
    mkdirSync(this.#folder, { recursive: true, mode: 0o700 });
    const full = diskFault(this.#folder);
    if (full) throw new Stop(full);
    await this.#endLeftOver();
    this.#account = databaseAccount(this.#folder);
    await giveTo(this.#account, this.#folder);
    if (!existsSync(this.passwordFile))
      writeFileSync(this.passwordFile, randomBytes(24).toString('hex'), { mode: 0o600 });
    const data = join(this.#folder, 'data');
    const complete = join(this.#folder, 'installed');
    if (!existsSync(complete)) {
      rmSync(data, { recursive: true, force: true });
      await shell(
        which('mariadb-install-db', 'mysql_install_db'),
        [
          `--datadir=${data}`,
          '--auth-root-authentication-method=socket',
          '--auth-root-socket-user=root',
          '--skip-test-db',
          '--no-defaults',
          ...this.#asUser(),
        ],
        { what: 'making the database' },
      );
      writeFileSync(complete, '');
    }
    // Where LOAD DATA and INTO OUTFILE may go: into a folder that the database cannot enter.
    const closed = join(this.#folder, 'closed');
    rmSync(closed, { recursive: true, force: true });
    mkdirSync(closed, { mode: 0o000 });
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
        `GRANT ${RIGHTS} ON yard_brace.* TO 'yard'@'127.0.0.1';`,
        `GRANT ${RIGHTS} ON yard_brace.* TO 'yard'@'localhost';`,
        // Nobody without a name, and root by the socket alone: also in folders that were made before.
        "DELETE FROM mysql.global_priv WHERE User = '' OR (User = 'root' AND Host <> 'localhost');",
        'FLUSH PRIVILEGES;',
        "ALTER USER 'root'@'localhost' IDENTIFIED VIA unix_socket;",
        '',
      ].join('\n'),
      { mode: 0o600 },
    );
    if (this.#account)
      await shell('chown', [`${this.#account}:`, setUp], { what: 'setting the database up' });
    // A socket path may have 107 characters at most, so it does not stand in the data folder.
    this.#socketFolder ??= temporaryFolder('socket');
    await giveTo(this.#account, this.#socketFolder);
    const child = spawn(
      which('mariadbd', 'mysqld'),
      [
        '--no-defaults',
        ...this.#asUser(),
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
        '--local-infile=0',
        `--secure-file-priv=${join(this.#folder, 'closed')}`,
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
    rmSync(setUp, { force: true });
  }

  /** As root it runs as nobody of power: see `databaseAccount`. */
  #asUser() {
    if (process.getuid?.() !== 0) return [];
    return [`--user=${this.#account ?? 'root'}`];
  }

  /** A server that a killed starter left behind holds the data folder. */
  async #endLeftOver() {
    const file = join(this.#folder, 'pid');
    const pid = existsSync(file) ? Number(readFileSync(file, 'utf8')) : 0;
    if (isOurs(pid, `--datadir=${join(this.#folder, 'data')}`)) await endProcess(pid);
  }
}

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
