import { rm } from 'node:fs/promises';
import { Program, temporaryFolder } from './program';

/** Makes the demo once, with all its pages analysed and measured, for all tests to copy. */
export default async function setUp() {
  const folder = await temporaryFolder();
  const program = new Program(folder);
  await program.start('demo');
  await program.idle();
  await program.measure();
  await program.stop();
  process.env.DORBIN_TEST_DEMO = folder;
  return () => rm(folder, { recursive: true, force: true });
}
