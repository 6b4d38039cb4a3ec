import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';
import { parse } from '@babel/parser';
import { minify } from '@swc/core';

const require = createRequire(import.meta.url);

/** The faces that the page declares, and which of them the first screen needs. */
const FACES = [
  { name: 'AtkinsonHyperlegible_400Regular', of: 'atkinson-hyperlegible/400Regular', first: true },
  { name: 'AtkinsonHyperlegible_700Bold', of: 'atkinson-hyperlegible/700Bold', first: true },
  { name: 'AtkinsonHyperlegibleMono_400Regular', of: 'atkinson-hyperlegible-mono/400Regular', first: true },
  { name: 'AtkinsonHyperlegibleMono_700Bold', of: 'atkinson-hyperlegible-mono/700Bold', first: false },
];
/** Latin with its extensions, punctuation, super- and subscripts, currency, letter-like signs, arrows, mathematics, shapes. */
const RANGES = [
  [0x20, 0x24f],
  [0x1e00, 0x1eff],
  [0x2000, 0x22ff],
  [0x25a0, 0x25ff],
];
const GLYPHS = RANGES.flatMap(([from, to]) =>
  Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)),
).join('');
const MARK = '<!-- typefaces -->';
/** Below this a request costs more than the octets. */
const WORTH_OCTETS = 1024;

/** Typefaces in the format of the web, declared in the page. */
export async function writeFaces(folder) {
  const { default: subsetFont } = await import('subset-font');
  mkdirSync(join(folder, 'fonts'), { recursive: true });
  const faces = [];
  for (const { name, of, first } of FACES) {
    const face = await subsetFont(readFileSync(require.resolve(`@expo-google-fonts/${of}/${name}.ttf`)), GLYPHS, {
      targetFormat: 'woff2',
    });
    const path = `/fonts/${name}-${createHash('sha256').update(face).digest('hex').slice(0, 12)}.woff2`;
    writeFileSync(join(folder, path), face);
    faces.push({ name, path, first });
  }
  const preload = faces
    .filter(({ first }) => first)
    .map(({ path }) => `<link rel="preload" href="${path}" as="font" type="font/woff2" crossorigin />`);
  const declared = faces.map(
    ({ name, path }) => `@font-face{font-family:'${name}';font-display:swap;src:url('${path}') format('woff2')}`,
  );
  const file = join(folder, 'index.html');
  const page = readFileSync(file, 'utf8');
  if (!page.includes(MARK)) throw new Error(`the page has no place for its typefaces: ${MARK}`);
  writeFileSync(file, page.replace(MARK, `${preload.join('')}<style>${declared.join('')}</style>`));
}

/**
 * Modules as functions in parentheses: engines take those for functions that are called at once and compile them while the file is read,
 * beside the main thread, instead of one by one as each is first called.
 */
export function modulesCalledAtOnce(program) {
  const marks = parse(program).program.body.flatMap(({ expression }) => {
    const [module] = expression?.callee?.name === '__d' ? expression.arguments : [];
    return module?.type === 'FunctionExpression'
      ? [
          { at: module.start, mark: '(' },
          { at: module.end, mark: ')' },
        ]
      : [];
  });
  const pieces = marks.map(({ at, mark }, i) => program.slice(marks[i - 1]?.at ?? 0, at) + mark);
  return pieces.join('') + program.slice(marks.at(-1)?.at ?? 0);
}

/** A program as small as it goes. What is named at its top is how the programs find each other, and keeps its name. */
export async function minified(program) {
  const { code } = await minify(program, { compress: true, mangle: true, module: false, format: { comments: false } });
  return code;
}

/** The programs of a page: small, and so that the first screen waits less for their compilation. */
export async function readyPrograms(folder) {
  const programs = join(folder, '_expo/static/js/web');
  const names = readdirSync(programs).filter((name) => name.endsWith('.js'));
  await Promise.all(
    names.map(async (name) => {
      const path = join(programs, name);
      writeFileSync(path, modulesCalledAtOnce(await minified(readFileSync(path, 'utf8'))));
    }),
  );
}

/** Each file compressed as well as it goes, once, beside itself. */
export async function compressAll(folder) {
  const files = readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((path) => /\.(?:js|html|css|svg|json)$/.test(path) && statSync(path).size > WORTH_OCTETS);
  await Promise.all(
    files.map(async (path) => {
      const octets = readFileSync(path);
      const brotli = { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } };
      writeFileSync(`${path}.br`, await promisify(brotliCompress)(octets, brotli));
      writeFileSync(`${path}.gz`, await promisify(gzip)(octets, { level: 9 }));
    }),
  );
}
