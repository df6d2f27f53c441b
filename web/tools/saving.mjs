// Plays scenes with the page's save queue, frame cache and history against a server that is
// made up here, for tests: reads the name of a scene and writes what came of it as JSON.
import { createServer } from 'vite'

const vite = await createServer({
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true },
  optimizeDeps: { noDiscovery: true, include: [] },
})
const { SaveQueue, memoryKeeper } = await vite.ssrLoadModule('/src/core/saveQueue.ts')
const { FrameCache, wanted } = await vite.ssrLoadModule('/src/core/frameCache.ts')
const { folded } = await vite.ssrLoadModule('/src/core/history.ts')

const { LiveChannel } = await vite.ssrLoadModule('/src/api/live.ts')

const sleep = (ms) => new Promise((done) => setTimeout(done, ms))

/** A server with scenes and their histories, slow by a millisecond, that can be away. */
function makeServer() {
  const scenes = new Map()
  const problem = (p) => Object.assign(new Error(p.code), { problem: p })
  const state = (id) => {
    const s = scenes.get(id)
    return {
      id,
      revision: s.revision,
      doc: s.steps[s.at].doc,
      undo: s.at > 0 ? s.steps[s.at].label : '',
      redo: s.at + 1 < s.steps.length ? s.steps[s.at + 1].label : '',
      touched: '',
    }
  }
  const at = (id, revision) => {
    if (server.away) throw problem({ status: 0, code: 'offline' })
    if (server.full) throw problem({ status: 507, code: 'disk', detail: 'full' })
    const s = scenes.get(id)
    if (!s) throw problem({ status: 404, code: 'scene' })
    if (s.revision !== revision) throw problem({ status: 409, code: 'conflict', current: state(id) })
    return s
  }
  const server = {
    away: false,
    full: false,
    /** The next answer is lost on its way, though what was asked for is done. */
    loseAnswer: false,
    calls: 0,
    scenes,
    make: (id, name) => scenes.set(id, { revision: 1, at: 0, steps: [{ label: 'made', doc: { name } }] }),
    names: (id) => scenes.get(id).steps.map((s) => s.doc.name),
    async save(id, revision, label, doc, base) {
      server.calls++
      await sleep(1)
      const s = at(id, revision)
      // What has changed is counted from what the server has.
      if (base && JSON.stringify(base) !== JSON.stringify(s.steps[s.at].doc)) throw new Error('of another document')
      if (doc.bad) throw problem({ status: 422, code: 'document', detail: 'bad' })
      s.steps.splice(s.at + 1, Infinity, { label, doc: structuredClone(doc) })
      s.at++
      s.revision++
      if (server.loseAnswer) {
        server.loseAnswer = false
        throw problem({ status: 0, code: 'offline' })
      }
      return state(id)
    },
    async get(id) {
      await sleep(1)
      if (server.away) throw problem({ status: 0, code: 'offline' })
      return state(id)
    },
    step: (by) => async (id, revision) => {
      server.calls++
      await sleep(1)
      const s = at(id, revision)
      if (s.at + by < 0 || s.at + by >= s.steps.length) throw problem({ status: 409, code: 'step' })
      s.at += by
      s.revision++
      return state(id)
    },
  }
  return server
}

const until = async (ok) => {
  for (let i = 0; i < 2000 && !ok(); i++) await sleep(1)
  return ok()
}

/** A window on a scene: a queue and what it was told. */
function open(server, keeper, id) {
  const { revision, steps, at } = server.scenes.get(id)
  const q = new SaveQueue(id, revision, steps[at].doc, server, keeper, 5)
  const w = { q, doc: steps[at].doc, told: [], conflicts: 0, refused: 0 }
  q.listen({
    told: (t) => w.told.push(t.state),
    stepped: (s) => {
      if (q.told().unsaved === 0) w.doc = s.doc
    },
    conflict: (c) => ((w.theirs = c), w.conflicts++),
    refused: () => w.refused++,
  })
  w.edit = (name, more) => {
    w.doc = { name, ...more }
    q.push({ doc: w.doc, label: 'to ' + name })
  }
  return w
}

const scenes = {
  // Edited while the server is away, left, another scene opened: each edit goes to its own scene.
  async twoScenes() {
    const server = makeServer()
    server.make('a', 'A')
    server.make('b', 'B')
    const keeper = memoryKeeper()
    const a = open(server, keeper, 'a')
    server.away = true
    a.edit('A1')
    await until(() => a.q.told().state === 'offline')
    a.q.listen({}) // the person leaves
    server.away = false
    const b = open(server, keeper, 'b')
    b.edit('B1')
    await until(() => a.q.idle() && b.q.idle())
    await a.q.settled()
    await b.q.settled()
    return { a: server.names('a'), b: server.names('b'), left: (await keeper.list()).length }
  },
  // A save in flight that fails while one leaves, and a reload before it is sent again.
  async reload() {
    const server = makeServer()
    server.make('a', 'A')
    const keeper = memoryKeeper()
    const a = open(server, keeper, 'a')
    server.away = true
    a.edit('A1')
    a.edit('A2')
    a.q.listen({})
    await a.q.settled()
    const left = (await keeper.list())[0] // what a new page finds
    server.away = false
    const again = new SaveQueue('a', 1, undefined, server, keeper, 5)
    again.resume(left)
    await until(() => again.idle())
    await again.settled()
    return {
      edits: left.edits.length,
      revision: left.revision,
      name: left.name,
      a: server.names('a'),
      left: (await keeper.list()).length,
    }
  },
  // Fifty edits, then undo faster than the server answers, more often than there are steps.
  async fastUndo() {
    const server = makeServer()
    server.make('a', 'A')
    const a = open(server, memoryKeeper(), 'a')
    for (let i = 1; i <= 50; i++) a.edit('A' + i)
    for (let i = 0; i < 70; i++) a.q.step('undo', server.step(-1))
    await until(() => a.q.idle())
    const undone = { doc: a.doc.name, calls: server.calls, conflicts: a.conflicts }
    for (let i = 0; i < 3; i++) a.q.step('redo', server.step(1))
    await until(() => a.q.idle())
    // An edit drops the steps that still wait.
    for (let i = 0; i < 20; i++) a.q.step('redo', server.step(1))
    a.edit('mine')
    await until(() => a.q.idle())
    return { ...undone, last: server.names('a').at(-1), steps: server.names('a').length, after: a.conflicts }
  },
  // Two windows: the second follows while it has nothing unsaved; else it is asked, and either choice stands.
  async twoWindows() {
    const server = makeServer()
    server.make('a', 'A')
    const one = open(server, memoryKeeper(), 'a')
    const two = open(server, memoryKeeper(), 'a')
    one.edit('one')
    await until(() => one.q.idle())
    await two.q.moved(2)
    const followed = { doc: two.doc.name, conflicts: two.conflicts }
    one.edit('one again')
    await until(() => one.q.idle())
    two.edit('two')
    await until(() => two.conflicts > 0)
    const asked = { state: two.q.told().state, theirs: two.theirs.doc.name, stored: server.names('a').at(-1) }
    two.q.keepMine(two.theirs, two.doc)
    await until(() => two.q.idle())
    const kept = server.names('a').at(-1)
    one.edit('three')
    await until(() => one.conflicts > 0)
    one.q.takeTheirs(one.theirs)
    one.edit('four')
    await until(() => one.q.idle())
    // A step in a window that is behind follows instead of asking.
    two.q.step('undo', server.step(-1))
    await until(() => two.q.idle())
    return { followed, asked, kept, names: server.names('a'), twoSees: two.doc.name, asks: two.conflicts }
  },
  // The answer to a save is lost: the same edit is not made twice and nobody is asked.
  async lostAnswer() {
    const server = makeServer()
    server.make('a', 'A')
    const a = open(server, memoryKeeper(), 'a')
    server.loseAnswer = true
    a.edit('A1')
    a.edit('A2')
    await until(() => a.q.idle())
    return { names: server.names('a'), conflicts: a.conflicts, states: [...new Set(a.told)] }
  },
  // Refused: it is said, and the next edit that is right is kept; undo while offline takes back what waits.
  async refusedAndTakenBack() {
    const server = makeServer()
    server.make('a', 'A')
    const keeper = memoryKeeper()
    const a = open(server, keeper, 'a')
    a.edit('bad', { bad: true })
    await until(() => a.refused > 0)
    const refused = a.q.told()
    a.edit('good')
    await until(() => a.q.idle())
    server.away = true
    a.edit('x')
    a.edit('y')
    await until(() => a.q.told().state === 'offline')
    const back = a.q.takeBack()
    server.away = false
    await until(() => a.q.idle())
    server.scenes.delete('a')
    a.edit('z')
    await until(() => a.q.told().state === 'gone')
    await a.q.settled()
    return {
      refused,
      back: back.doc.name,
      unsaved: (await keeper.list())[0]?.edits.map((e) => e.label),
      state: a.q.told(),
    }
  },
  // A full disk: it is said, the edits stay, and are saved when there is room.
  async disk() {
    const server = makeServer()
    server.make('a', 'A')
    const a = open(server, memoryKeeper(), 'a')
    server.full = true
    a.edit('one')
    a.edit('two')
    await until(() => a.q.told().state === 'offline')
    const { trouble, unsaved } = a.q.told()
    server.full = false
    await until(() => a.q.idle())
    return { trouble, unsaved, names: server.names('a') }
  },
  // What is unsaved is called safe only once the browser's database has it.
  async safe() {
    const server = makeServer()
    server.make('a', 'A')
    const written = []
    const keeper = { ...memoryKeeper(), put: () => new Promise((done) => written.push(done)) }
    const a = open(server, keeper, 'a')
    const said = [a.q.told().safe]
    server.away = true
    a.edit('x')
    await until(() => written.length === 1)
    said.push(a.q.told().safe)
    a.edit('y')
    written.shift()(true) // of x alone
    await until(() => written.length === 1)
    said.push(a.q.told().safe)
    written.shift()(true)
    await until(() => a.q.told().safe)
    said.push(a.q.told().safe)
    server.away = false
    await until(() => a.q.idle())
    said.push(a.q.told().safe)
    return said
  },
  // Frames are kept within their bytes, the ones played last are let go, and playing a long range
  // asks for each frame a few times at most and never stands still.
  async frames() {
    const cache = new FrameCache(1000)
    for (let f = 1; f <= 96; f++) cache.put(f, f, 20, 30, 1, 96)
    const kept = Array.from({ length: 96 }, (_, i) => i + 1).filter((f) => cache.has(f))
    const long = new FrameCache(5000)
    const asked = new Map()
    let asks = 0
    let now = 0
    let stuck = 0
    let head = 1
    for (let tick = 0; tick < 60000; tick++) {
      now += 10
      const list = wanted((f) => long.has(f), asked, head, 1, 10000, now)
      for (const f of list) {
        asks++
        asked.set(f, now)
        if (Math.random() < 0.9) long.put(f, f, 37, head, 1, 10000) // one in ten is lost on its way
      }
      const next = head === 10000 ? 1 : head + 1
      if (long.has(next)) {
        head = next
        stuck = 0
      } else if (++stuck > 2000) return { stuckAt: next }
    }
    return { first: kept[0], last: kept.at(-1), count: kept.length, held: long.size, asks, rounds: 6 }
  },
  // The live channel over breaks: one answer is out at a time, the newest edit alone waits, after a
  // break it comes back and sends the newest again, and a stale answer is not handed on.
  async reconnect() {
    const sockets = []
    globalThis.location = { href: 'http://bead.example/scenes/a' }
    globalThis.WebSocket = class {
      static OPEN = 1
      sent = []
      constructor(url) {
        this.url = String(url)
        this.readyState = 0
        sockets.push(this)
      }
      send(text) {
        const m = JSON.parse(text)
        const patch = m.patch?.map((p) => `${p.op} ${p.path} ${p.value}`)
        this.sent.push(
          m.doc ? `${m.doc.name}/${m.seq}` : patch ? `${patch}/${m.seq}` : `look ${[m.frame, ...m.frames]}/${m.seq}`,
        )
      }
      open() {
        this.readyState = 1
        this.onopen()
      }
      close() {
        this.readyState = 3
        this.onclose()
      }
      /** A message with a JSON section, as docs/protocol.md has it. */
      say(kind, seq, value) {
        const text = new globalThis.TextEncoder().encode(JSON.stringify(value))
        const buffer = new ArrayBuffer(24 + 8 + Math.ceil(text.length / 8) * 8)
        const view = new DataView(buffer)
        ;[...'BEAD'].forEach((c, k) => view.setUint8(k, c.charCodeAt(0)))
        view.setUint16(4, 1, true)
        view.setUint16(6, kind, true)
        view.setUint32(8, seq, true)
        ;[...'JSON'].forEach((c, k) => view.setUint8(24 + k, c.charCodeAt(0)))
        view.setUint32(28, text.length, true)
        new Uint8Array(buffer, 32).set(text)
        this.onmessage({ data: buffer })
      }
    }
    const log = []
    const channel = new LiveChannel(
      'a',
      (m, doc) => log.push(`${m.kind} of ${doc.name}`),
      (open) => log.push(open ? 'open' : 'away'),
      (revision) => log.push(`at ${revision}`),
      (why) => log.push(why),
    )
    const edit = (name) => channel.edit({ name }, 7, true)
    edit('A') // before it is open
    sockets[0].open()
    sockets[0].say(6, 0, { revision: 3 })
    for (const name of ['B', 'C', 'D']) edit(name) // while the answer to A is out
    const early = channel.look([1, 2])
    sockets[0].say(4, 1, { detail: 'no', faults: [] })
    sockets[0].say(4, 1, { detail: 'late', faults: [] }) // of A, when D has gone out
    sockets[0].close()
    const away = channel.look([1, 2])
    edit('E')
    await until(() => sockets.length === 2)
    sockets[1].close() // still away
    await until(() => sockets.length === 3)
    sockets[2].open()
    sockets[2].say(6, 0, { revision: 5 })
    sockets[2].say(3, 3, { results: [], seen: 9, of: 9, looked: 0, waiting: [] })
    sockets[2].say(4, 3, { detail: 'no', faults: [] })
    const late = channel.look([4, 5])
    edit('F')
    channel.edit({ name: 'G' }, 7, false) // passed through while F is out
    await sleep(300)
    edit('H') // does not wait any longer, and stands for G
    sockets[2].say(4, 4, { detail: 'late', faults: [] })
    sockets[2].say(4, 5, { detail: 'no', faults: [] })
    edit('I')
    sockets[2].say(4, 6, { detail: 'of another version' }) // is not understood, and holds nothing up
    edit('J')
    channel.close()
    await sleep(700)
    return {
      url: sockets[0].url,
      sent: sockets.map((s) => s.sent),
      looks: [early, away, late],
      log,
      sockets: sockets.length,
    }
  },
  async history() {
    const step = (seq, label, field, was, is, current) => ({
      seq,
      label,
      made: '',
      current: !!current,
      field,
      what: field && 'Row: count',
      was,
      is,
    })
    return folded([
      step(6, 'x', 'c', '52', '53', true),
      step(5, 'x', 'c', '51', '52'),
      step(4, 'x', 'c', '50', '51'),
      step(3, 'add a circle'),
      step(2, 'x', 'c', '49', '50'),
      step(1, 'made'),
    ]).map((e) => `${e.text}${e.steps > 1 ? ' x' + e.steps : ''}${e.current ? ' now' : ''}`)
  },
}

const out = {}
for (const name of process.argv.slice(2)) out[name] = await scenes[name]()
console.log(JSON.stringify(out))
await vite.close()
process.exit(0)
