import { whenChanged } from './house.mjs';
import { Stop, say } from './say.mjs';
import { shell, which } from './shell.mjs';

/** Programs from Debian, by the names they go by and the package that brings them. */
const PROGRAMS = {
  database: { names: ['mariadbd', 'mysqld'], package: 'mariadb-server' },
  browser: { names: ['chromium', 'chromium-browser'], package: 'chromium' },
};

/** Everything the house needs on this machine: Node, packages, and the named programs. Uses no packages itself. */
export async function bootstrap(programs) {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    throw new Stop(
      `Yard Brace needs Node 20.19 or newer, and this is ${process.versions.node}; install a newer one and start again.`,
    );
  }
  const found = {};
  for (const program of programs) found[program] = await provide(program);
  await whenChanged(
    'packages',
    ['package.json', 'package-lock.json', '.npmrc'],
    ['node_modules/.package-lock.json'],
    async () => {
      say('Installing packages (npm ci) …');
      await shell('npm', ['ci', '--no-audit', '--no-fund'], { what: 'npm ci' });
    },
  );
  return found;
}

async function provide(program) {
  const { names, package: debian } = PROGRAMS[program];
  const found = which(...names);
  if (found) return found;
  const byHand = `Install Debian's package ${debian} (as root: apt-get install ${debian}) and start again.`;
  if (process.getuid?.() !== 0 || !which('apt-get'))
    throw new Stop(`${names[0]} is not on this machine. ${byHand}`);
  say(`Installing ${debian} …`);
  const env = { DEBIAN_FRONTEND: 'noninteractive' };
  const install = () =>
    shell('apt-get', ['install', '-y', '--no-install-recommends', debian], {
      env,
      what: `installing ${debian}`,
    });
  try {
    await install();
  } catch {
    await shell('apt-get', ['update'], { env, what: 'apt-get update' });
    await install();
  }
  const installed = which(...names);
  if (!installed) throw new Stop(`${debian} was installed, yet ${names[0]} is not there. ${byHand}`);
  return installed;
}
