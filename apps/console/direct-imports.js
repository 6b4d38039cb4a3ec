/**
 * A babel plugin: what is imported from one of our packages is imported from the file that says it.
 *
 * `@tombolo/core` and `@tombolo/contract` are lists of everything, which is right for whoever reads them, but a bundler
 * then has to load everything with the first screen. Written out file by file, only what a place uses comes with it.
 */
const { createHash } = require('node:crypto');
const { existsSync, readFileSync } = require('node:fs');
const path = require('node:path');
const ts = require('typescript');

const packages = path.resolve(__dirname, '../../packages');
const LISTS = ['core', 'contract'];

/** The names that a file exports, each with the file that declares it. */
function exportsOf(file, seen = new Set()) {
  const names = new Map();
  if (seen.has(file)) return names;
  seen.add(file);
  const { statements } = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest);
  for (const statement of statements) {
    if (ts.isExportDeclaration(statement)) {
      if (statement.exportClause && ts.isNamedExports(statement.exportClause))
        for (const { name } of statement.exportClause.elements) names.set(name.text, file);
      else if (statement.moduleSpecifier?.text.startsWith('.'))
        for (const [name, from] of exportsOf(
          found(path.resolve(path.dirname(file), statement.moduleSpecifier.text)),
          seen,
        ))
          names.set(name, from);
    } else if (statement.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)) {
      for (const name of declared(statement)) names.set(name, file);
    }
  }
  return names;
}

const found = (file) => (existsSync(`${file}.ts`) ? `${file}.ts` : path.join(file, 'index.ts'));

const declared = (statement) =>
  ts.isVariableStatement(statement)
    ? statement.declarationList.declarations.flatMap(({ name }) =>
        ts.isIdentifier(name) ? [name.text] : name.elements.map((one) => one.name.text),
      )
    : [statement.name.text];

const lists = new Map(
  LISTS.map((name) => {
    const source = path.join(packages, name, 'src');
    const names = [...exportsOf(path.join(source, 'index.ts'))].map(([exported, file]) => [
      exported,
      `@tombolo/${name}/${path.relative(source, file).replace(/\.ts$/, '').split(path.sep).join('/')}`,
    ]);
    return [`@tombolo/${name}`, new Map(names)];
  }),
);

const plugin = ({ types: t }) => ({
  name: 'direct-imports',
  visitor: {
    Program: {
      enter(program) {
        for (const statement of program.get('body')) {
          if (!statement.isImportDeclaration()) continue;
          const { specifiers, source, importKind } = statement.node;
          const list = lists.get(source.value);
          if (!list || specifiers.some((one) => one.type !== 'ImportSpecifier')) continue;
          const byFile = new Map();
          for (const specifier of specifiers) {
            const file = list.get(specifier.imported.name) ?? source.value;
            byFile.set(file, [...(byFile.get(file) ?? []), specifier]);
          }
          statement.replaceWithMultiple(
            [...byFile].map(([file, own]) => ({
              ...t.importDeclaration(own, t.stringLiteral(file)),
              importKind,
            })),
          );
        }
      },
    },
  },
});

module.exports = plugin;
/** Changes whenever a name moves: what was transformed before must not be taken from a cache then. */
module.exports.digest = createHash('sha256')
  .update(JSON.stringify([...lists].map(([name, names]) => [name, [...names].sort()])))
  .update(readFileSync(__filename))
  .digest('hex');
