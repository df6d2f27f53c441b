// Writes dist/licences.txt: the licences of all packages, npm's and Go's, that go into the program.
// Usage: node tools/licences.mjs (from web, behind the build of the page)
import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const texts = new Map()

/** Takes in the licence files of a package in a directory. */
function take(name, dir, stated) {
  const files = existsSync(dir) ? readdirSync(dir).filter((f) => /^(licen[cs]e|copying|notice)/i.test(f)) : []
  const text =
    files.map((f) => readFileSync(join(dir, f), 'utf8').trim()).join('\n\n') || (stated && `Licence: ${stated}`)
  if (!text) throw new Error(`${name} states no licence: see what it is and leave it out`)
  texts.set(text, [...(texts.get(text) ?? []), name])
}

const lock = JSON.parse(readFileSync('package-lock.json', 'utf8'))
for (const [path, p] of Object.entries(lock.packages)) {
  if (path && !p.dev && existsSync(path)) {
    take(`${path.replace(/^.*node_modules\//, '')} ${p.version}`, path, p.license)
  }
}

const format = '{{with .Module}}{{if not .Main}}{{.Path}} {{.Version}}\t{{.Dir}}{{end}}{{end}}'
const list = execFileSync('go', ['list', '-e', '-deps', '-f', format, './cmd/bead'], { cwd: '..', encoding: 'utf8' })
for (const line of new Set(list.split('\n').filter(Boolean))) {
  const [name, dir] = line.split('\t')
  take(name, dir)
}
take('Go', execFileSync('go', ['env', 'GOROOT'], { encoding: 'utf8' }).trim(), 'BSD-3-Clause')

const parts = [...texts].map(([text, names]) => `${names.sort().join('\n')}\n\n${text}`).sort()
writeFileSync(
  'dist/licences.txt',
  `What others have made that is inside Bead, and their licences.\n\n${parts.join(`\n\n${'-'.repeat(80)}\n\n`)}\n`,
)
