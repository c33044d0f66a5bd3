// What the scripts tell a person: a sentence, never a stack. Node built-ins only.

/** An error whose message is meant for the person at the terminal. */
export class Plain extends Error {}

export const say = (text) => console.log(text);

const SENTENCES = {
  ENOSPC: 'The disk is full. Free some space and start again; nothing saved is lost.',
  EACCES: 'A folder may not be written to. Give another with --data DIR.',
  EEXIST: 'There is a file where the data folder is to be. Give a folder with --data DIR.',
  ENOTDIR: 'There is a file where a folder is to be. Give a folder with --data DIR.',
  EROFS: 'The disk is read-only. Give another place with --data DIR.',
  ECONNREFUSED: 'The database does not answer. Check DATABASE_URL and that its server runs.',
  ENOTFOUND: 'The database’s host was not found. Check DATABASE_URL.',
  '28P01': 'The database refuses the name or the password. Check DATABASE_URL.',
  '3D000': 'The database named in DATABASE_URL does not exist. Create it and start again.',
  EADDRINUSE: 'The port is in use by another program. Choose another with --port N.',
};

/** Runs a script's main function; whatever goes wrong ends as a sentence and exit code 1. */
export async function run(main) {
  try {
    process.exitCode = (await main()) ?? 0;
  } catch (error) {
    const sentence =
      error instanceof Plain
        ? error.message
        : (SENTENCES[error.code] ?? `Something unexpected went wrong: ${error.message}`);
    console.error(`\n${sentence}`);
    if (process.env.FOXTRAIL_DEBUG) console.error(error);
    process.exitCode = 1;
  }
}

/** Old versions of Node lack what the server needs; say so before anything else fails. */
export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Plain(
      `Fox Trail needs Node 20.19 or newer; this is ${process.versions.node}. Install a newer one and start again.`,
    );
}
