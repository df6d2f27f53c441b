// Calls functions of the page's core (src/core) for tests: reads a JSON list of
// [file, function, arguments...] and writes the list of [result, first argument], for
// functions that change what they are given. What is thrown comes as {"thrown": text}.
import { createServer } from 'vite'

const read = async () => {
  let text = ''
  for await (const part of process.stdin) text += part
  return JSON.parse(text)
}
const server = await createServer({
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true },
  optimizeDeps: { noDiscovery: true, include: [] },
})
const out = []
for (const [file, name, ...given] of await read()) {
  // "@paths/0" is that of the first argument itself, so that it can be changed there.
  const at = (ref) =>
    ref
      .slice(1)
      .split('/')
      .reduce((v, k) => v[k], given[0])
  const args = given.map((a) => (typeof a === 'string' && a.startsWith('@') ? at(a) : a))
  const module = await server.ssrLoadModule(`/src/core/${file}.ts`)
  try {
    out.push([module[name](...args) ?? null, args[0] ?? null])
  } catch (e) {
    out.push([{ thrown: e.message }, null])
  }
}
console.log(JSON.stringify(out))
await server.close()
