// Builds styles, scripts and fonts into public/build, each under a name that changes with its content.
import { createHash } from 'node:crypto';
import { cpSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as esbuild from 'esbuild';
import * as sass from 'sass';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const out = join(root, 'public/build');
rmSync(out, { recursive: true, force: true });
mkdirSync(join(out, 'fonts'), { recursive: true });

const fonts = [
    '@fontsource-variable/commissioner/files/commissioner-latin-wght-normal.woff2',
    '@fontsource-variable/commissioner/files/commissioner-latin-ext-wght-normal.woff2',
    '@fontsource-variable/source-code-pro/files/source-code-pro-latin-wght-normal.woff2',
    '@fontsource-variable/source-code-pro/files/source-code-pro-latin-ext-wght-normal.woff2',
    '@fontsource/marcellus/files/marcellus-latin-400-normal.woff2',
    '@fontsource/marcellus/files/marcellus-latin-ext-400-normal.woff2',
];
for (const font of fonts) {
    cpSync(join(root, 'node_modules', font), join(out, 'fonts', font.split('/').pop()));
}

const manifest = {};
function emit(name, content) {
    const hash = createHash('sha256').update(content).digest('hex').slice(0, 10);
    const ext = extname(name);
    const file = `${name.slice(0, -ext.length)}.${hash}${ext}`;
    writeFileSync(join(out, file), content);
    manifest[`build/${name}`] = `build/${file}`;
}

for (const name of ['app', 'edition']) {
    const { css } = sass.compile(join(root, `assets/styles/${name}.scss`), {
        style: 'compressed',
        loadPaths: [join(root, 'node_modules')],
        quietDeps: true,
        silenceDeprecations: ['import', 'global-builtin', 'color-functions', 'if-function'],
    });
    emit(`${name}.css`, css);
}
for (const name of ['app', 'design', 'edition', 'theme']) {
    const { outputFiles } = await esbuild.build({
        entryPoints: [join(root, `assets/scripts/${name}.js`)], bundle: true, minify: true, write: false, format: 'iife', target: 'es2020',
    });
    emit(`${name}.js`, outputFiles[0].text);
}
writeFileSync(join(out, 'manifest.json'), JSON.stringify(manifest, null, 1));
console.log(readdirSync(out).join(' '));
