// Calls functions of the page's core (src/core) for tests: reads lines, each a JSON list of
// [file, function, arguments...], and writes for each the list of [result, first argument], for
// functions that change what they are given. What is thrown comes as {"thrown": text}.
import { createInterface } from 'node:readline'
import { createServer } from 'vite'

const server = await createServer({
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true },
  optimizeDeps: { noDiscovery: true, include: [] },
})
async function answer([file, name, ...given]) {
  // "@paths/0" is that of the first argument itself, so that it can be changed there.
  const at = (ref) =>
    ref
      .slice(1)
      .split('/')
      .reduce((v, k) => v[k], given[0])
  const args = given.map((a) => (typeof a === 'string' && a.startsWith('@') ? at(a) : a))
  const module = await server.ssrLoadModule(`/src/core/${file}.ts`)
  try {
    return [module[name](...args) ?? null, args[0] ?? null]
  } catch (e) {
    return [{ thrown: e.message }, null]
  }
}
for await (const line of createInterface({ input: process.stdin })) {
  const out = []
  for (const call of JSON.parse(line)) out.push(await answer(call))
  process.stdout.write(JSON.stringify(out) + '\n')
}
await server.close()
