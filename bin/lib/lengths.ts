import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';

// House check: no file of work is over 300 lines; no component, loader or action of app is over 120. What is longer has parts with names.
const root = join(fileURLToPath(import.meta.url), '../../..');
const FILE = 300;
const FUNCTION = 120;

const files = (folder: string, ending: RegExp): string[] =>
  readdirSync(join(root, folder), { recursive: true, encoding: 'utf8' })
    .filter((f) => ending.test(f) && !f.includes('.test.'))
    .map((f) => join(folder, f))
    .sort();

const tooLong: string[] = [];
for (const file of files('work', /\.ts$/)) {
  const lines = readFileSync(join(root, file), 'utf8').split('\n').length - 1;
  if (lines > FILE) tooLong.push(`${file} has ${lines} lines; ${FILE} are allowed`);
}

/** A component by its capital; what a route runs on the server by its name. */
const counts = (name: string) =>
  /^[A-Z]/.test(name) || ['loader', 'action', 'clientLoader', 'clientAction'].includes(name);
for (const file of files('app', /\.tsx?$/)) {
  const source = ts.createSourceFile(file, readFileSync(join(root, file), 'utf8'), ts.ScriptTarget.Latest, true);
  const look = (node: ts.Node): void => {
    const named =
      ts.isFunctionDeclaration(node) && node.name
        ? node.name.text
        : ts.isVariableDeclaration(node) &&
            ts.isIdentifier(node.name) &&
            node.initializer &&
            (ts.isArrowFunction(node.initializer) ||
              ts.isFunctionExpression(node.initializer) ||
              ts.isCallExpression(node.initializer))
          ? node.name.text
          : undefined;
    if (named !== undefined && counts(named)) {
      const from = source.getLineAndCharacterOfPosition(node.getStart()).line;
      const to = source.getLineAndCharacterOfPosition(node.getEnd()).line;
      const lines = to - from + 1;
      if (lines > FUNCTION) tooLong.push(`${file}:${from + 1} ${named} has ${lines} lines; ${FUNCTION} are allowed`);
    }
    ts.forEachChild(node, look);
  };
  look(source);
}
for (const line of tooLong) console.error(line);
process.exit(tooLong.length === 0 ? 0 : 1);
