// Letters and figures that are not taken for each other.
const LETTERS = 'abcdefghijkmnpqrstuvwxyz23456789';
const GROUPS = 4;
const GROUP_LENGTH = 4;

/** A password that cannot be guessed: 80 bits of chance, in groups that can be read aloud. */
export function makePassword(): string {
  const chance = crypto.getRandomValues(new Uint8Array(GROUPS * GROUP_LENGTH));
  const letters = Array.from(chance, (byte) => LETTERS[byte % LETTERS.length]).join('');
  return letters.match(new RegExp(`.{${GROUP_LENGTH}}`, 'g'))?.join('-') ?? letters;
}
