/** Lines a person reads while the tools work, on stderr so that stdout stays for results. */
export const say = (text) => process.stderr.write(`${text}\n`);

/** Ends the program with a sentence instead of a stack. */
export class Stop extends Error {}

/** Run a tool's main function: a Stop is shown as its sentence, anything else as it is. */
export async function run(main) {
  try {
    await main();
  } catch (error) {
    say(error instanceof Stop ? `\n${error.message}` : (error.stack ?? String(error)));
    process.exit(1);
  }
}
