/**
 * Words that the most common passwords are made of: those that stand at the top of every list of leaked ones, as far as they come to ten
 * characters with the digits, years and signs people add. From memory; the lists themselves are too long to ship, and a password of ten
 * characters or more that is none of these, repeats nothing and counts nothing up is far down on any of them.
 */
const COMMON =
  `password passwort passwords passphrase letmein welcome qwerty qwertz azerty qwertyuiop qwertzuiop asdfgh asdfghjkl zxcvbn zxcvbnm
iloveyou sunshine princess football baseball basketball superman batman dragon monkey shadow master michael jennifer jordan
charlie trustno mustang access flower hottie loveme starwars computer internet whatever freedom secret changeme default
administrator admin administrador login guest test testing tester user username hello helloworld abc abcd abcdef abcdefgh abcdefghij
summer winter spring autumn monday friday january december christmas chocolate butterfly liverpool chelsea arsenal barcelona
samsung google facebook pokemon naruto minecraft killer hunter ranger buster soccer hockey tigger pepper ginger cookie cheese banana
purple orange yellow silver golden diamond angel angels lovely loveyou babygirl sweetheart mother father family friends forever
andrea daniel thomas robert jessica ashley nicole michelle matthew anthony joshua andrew justin william elizabeth alexander
correcthorsebatterystaple vinylcutter vinyl cutter versipel crafter crafting`.split(/\s+/);
const words = new Set(COMMON);

const KEYBOARD = [
  'qwertyuiop',
  'qwertzuiop',
  'azertyuiop',
  'asdfghjkl',
  'zxcvbnm',
  'yxcvbnm',
  '1234567890',
  'abcdefghijklmnopqrstuvwxyz',
];
const plain = (s: string): string =>
  s
    .toLowerCase()
    .replace(/[@4]/g, 'a')
    .replace(/[3€]/g, 'e')
    .replace(/[1!|]/g, 'i')
    .replace(/0/g, 'o')
    .replace(/[$5]/g, 's')
    .replace(/7/g, 't');

/** Whether a text only runs along the keyboard, the alphabet or the digits, either way, perhaps more than once. */
function runs(text: string): boolean {
  let steps = 0;
  for (let i = 1; i < text.length; i++) {
    const pair = text[i - 1]! + text[i]!;
    const back = text[i]! + text[i - 1]!;
    if (KEYBOARD.some((k) => k.includes(pair) || k.includes(back)) || text[i] === text[i - 1]) steps++;
  }
  return steps >= text.length - 2;
}

/** Whether a text is a shorter one over and over, or hardly more than one character. */
function repeats(text: string): boolean {
  if (new Set(text).size < 4) return true;
  for (let n = 1; n <= text.length / 2; n++)
    if (
      text
        .slice(0, n)
        .repeat(Math.ceil(text.length / n))
        .slice(0, text.length) === text
    )
      return true;
  return false;
}

/** Whether a password is among the first that anybody would try: a common word with digits round it, one thing over and over, a run of keys. */
export function commonPassword(password: string): boolean {
  const low = password.toLowerCase();
  if (repeats(low) || runs(low)) return true;
  // Signs and years round a word are the first that people add; letters written as digits the second.
  const core = low.replace(/^[^\p{L}]+|[^\p{L}]+$/gu, '');
  for (const text of [low, core, plain(core)]) {
    const bare = text.replace(/[^\p{L}]+/gu, '');
    if (words.has(bare)) return true;
    // Two common words side by side.
    for (let i = 3; i <= bare.length - 3; i++) if (words.has(bare.slice(0, i)) && words.has(bare.slice(i))) return true;
  }
  return false;
}
