import type { Document, Kept, Problem, SceneState } from './page.generated'

// What a person did to one scene on its way to the server: edits and steps of the history,
// one after another, each at the revision that the one before it has left. The queue belongs
// to its scene and lives on when the person goes to another; what the server has not kept yet
// is kept in this browser, over a reload too.

/** A document that the server has not kept yet, with the words of the edit. */
export interface Edit {
  doc: Document
  label: string
}

/** What is kept in this browser of a scene. */
export interface Unsaved {
  /** Of the scene and the window in which the edits were made. */
  key: string
  id: string
  /** The window is still there and sends them itself. */
  alive: boolean
  name: string
  /** The revision on which the first edit stands. */
  revision: number
  edits: Edit[]
}

/** Where unsaved edits are kept in this browser. */
export interface Keeper {
  /** This window's name, one of its own. */
  window: string
  /** Resolves once it would outlive a reload; false where this browser keeps nothing. */
  put: (u: Omit<Unsaved, 'alive'>) => Promise<boolean>
  drop: (key: string) => Promise<void>
  list: () => Promise<Unsaved[]>
}

/** How the queue speaks to the server. What goes wrong is thrown with a problem. */
export interface Server {
  /** base is the document at the revision, where it is known: then only the changes are sent. */
  save: (id: string, revision: number, label: string, doc: Document, base: Document | undefined) => Promise<Kept>
  get: (id: string) => Promise<SceneState>
}

export type Step = (id: string, revision: number) => Promise<SceneState>

export type SaveState =
  /** The server has everything. */
  | 'saved'
  | 'saving'
  /** The server does not answer; it is asked again. */
  | 'offline'
  /** The server does not accept the document: the person has to put something right. */
  | 'refused'
  /** The scene has moved on elsewhere: the person has to choose. */
  | 'conflict'
  /** The scene was deleted elsewhere. */
  | 'gone'

export interface Told {
  state: SaveState
  /** How many edits the server has not kept yet. */
  unsaved: number
  /** What is unsaved would outlive a reload: keeping it takes a moment. */
  safe: boolean
  revision: number
  /** Why the server cannot keep anything, as when its disk is full; empty when it does not answer. */
  trouble: string
}

interface Events {
  /** Something about saving is different. */
  told: (t: Told) => void
  /** The server has kept an edit. */
  kept: (s: Kept) => void
  /** The server has taken a step, or another window has: the document is another one. */
  stepped: (s: SceneState) => void
  /** The scene as it stands elsewhere, where the person has to choose. */
  conflict: (theirs: SceneState) => void
  refused: (problem: Partial<Problem>) => void
}

export type Direction = 'undo' | 'redo' | 'to'

type Op = { kind: 'edit'; edit: Edit } | { kind: 'step'; way: Direction; step: Step }

export const problemOf = (e: unknown): Partial<Problem> | undefined =>
  (e as { problem?: Partial<Problem> } | null)?.problem

const sleep = (ms: number) => new Promise<void>((done) => setTimeout(done, ms))

export class SaveQueue {
  private ops: Op[] = []
  /** What is on its way now, first of all. */
  private flying: Op | null = null
  private running = false
  private state: SaveState = 'saved'
  /** The newest revision that was told of from elsewhere. */
  private seen = 0
  private events: Partial<Events> = {}
  private writes: Promise<unknown> = Promise.resolve()
  private keeps = 0
  private safe = true
  private trouble = ''

  constructor(
    readonly id: string,
    private revision: number,
    /** The document at that revision, where it is known. */
    private base: Document | undefined,
    private readonly server: Server,
    private readonly keeper: Keeper,
    private readonly retryMs = 1000,
  ) {}

  private get key() {
    return `${this.id} ${this.keeper.window}`
  }

  /** Who is told from now on; nobody while the scene is not open. */
  listen(events: Partial<Events>) {
    this.events = events
    this.tell()
  }

  told(): Told {
    const { state, safe, revision, trouble } = this
    return { state, unsaved: this.edits().length, safe, revision, trouble }
  }

  /** Nothing is on its way and nothing waits. */
  idle(): boolean {
    return !this.running && this.ops.length === 0 && this.state === 'saved'
  }

  /** An edit to be kept. Steps that have not gone out yet are not taken any more. */
  push(edit: Edit) {
    if (this.state === 'refused') this.ops = [] // the new document stands for all that was refused
    this.ops = this.ops.filter((o) => o.kind === 'edit')
    this.ops.push({ kind: 'edit', edit })
    if (this.state === 'refused') this.state = 'saved'
    this.keep()
    void this.run()
  }

  /** Undo, redo, or another step, after all that waits. */
  step(way: Direction, step: Step) {
    if (this.state !== 'saved' && this.state !== 'saving') return
    this.ops.push({ kind: 'step', way, step })
    void this.run()
  }

  /**
   * While the server does not answer, takes the last edit back that has not gone out; false
   * where there is none. doc is the one before it, undefined where the server has that.
   */
  takeBack(): { doc: Document | undefined } | false {
    if (this.state !== 'offline' || this.ops.at(-1)?.kind !== 'edit') return false
    this.ops.pop()
    this.keep()
    this.tell()
    return { doc: this.edits().at(-1)?.doc }
  }

  /** The document of the last edit that the server has not kept. */
  last(): Document | undefined {
    return this.edits().at(-1)?.doc
  }

  /** Edits that were kept in this browser, of a scene that has moved on meanwhile. */
  contest(u: Unsaved, theirs: SceneState) {
    for (const edit of u.edits) this.ops.push({ kind: 'edit', edit })
    this.adopt(u)
    this.state = 'conflict'
    this.tell()
    this.events.conflict?.(theirs)
  }

  /** Drops the steps that wait: all, or those of one way in which nothing is left. */
  private dropSteps(way?: Direction) {
    this.ops = this.ops.filter((o) => o.kind === 'edit' || (way && o.way !== way))
  }

  /** Forgets edits that were refused. */
  putBack() {
    this.ops = []
    this.state = 'saved'
    this.keep()
    this.tell()
  }

  /** Keeps this window's last document over what stands elsewhere. */
  keepMine(theirs: SceneState, doc: Document) {
    this.stand(theirs)
    this.state = 'saved'
    this.ops = []
    this.push({ doc, label: 'keep this window’s version' })
  }

  /** Takes the scene as it stands elsewhere. */
  takeTheirs(theirs: SceneState) {
    this.ops = []
    this.stand(theirs)
    this.state = 'saved'
    this.keep()
    this.tell()
  }

  /** Edits that were kept in this browser go on from there. */
  resume(u: Unsaved) {
    if (this.revision !== u.revision) this.base = undefined
    this.revision = u.revision
    for (const edit of u.edits) this.ops.push({ kind: 'edit', edit })
    this.adopt(u)
    void this.run()
  }

  /** Edits of a window that is gone are this one's from now on. */
  private adopt(u: Unsaved) {
    this.keep()
    if (u.key !== this.key) this.writes = this.writes.then(() => this.keeper.drop(u.key)).catch(() => undefined)
  }

  /** The scene has a revision that may be another window's. */
  async moved(revision: number) {
    this.seen = Math.max(this.seen, revision)
    await this.follow()
  }

  /** The edits that the server has not kept. */
  private edits(): Edit[] {
    const all = this.flying ? [this.flying, ...this.ops] : this.ops
    return all.flatMap((o) => (o.kind === 'edit' ? [o.edit] : []))
  }

  private tell() {
    this.events.told?.(this.told())
  }

  /** Keeps what is unsaved in this browser, or forgets it when there is nothing. */
  private keep() {
    const edits = this.edits()
    const revision = this.revision
    const nth = ++this.keeps
    this.safe = edits.length === 0
    this.writes = this.writes
      .then((): Promise<boolean | void> =>
        edits.length === 0
          ? this.keeper.drop(this.key)
          : this.keeper.put({ key: this.key, id: this.id, name: edits.at(-1)!.doc.name, revision, edits }),
      )
      .catch(() => false) // a browser that keeps nothing: the queue itself still holds it
      .then((safe) => {
        if (nth !== this.keeps || edits.length === 0) return
        this.safe = safe === true
        this.tell()
      })
  }

  /** All that was to be written in this browser is written. */
  async settled() {
    await this.writes
  }

  private async follow() {
    if (this.running || this.ops.length > 0 || this.state !== 'saved' || this.seen <= this.revision) return
    let theirs: SceneState
    try {
      theirs = await this.server.get(this.id)
    } catch {
      return // the next word of it, or the next edit, finds out
    }
    if (this.running || this.ops.length > 0 || theirs.revision <= this.revision) return
    this.stand(theirs)
    this.events.stepped?.(theirs)
    this.tell()
  }

  private async run() {
    if (this.running || this.state === 'conflict' || this.state === 'refused' || this.state === 'gone') {
      this.tell()
      return
    }
    this.running = true
    while (this.ops.length > 0) {
      const op = this.ops.shift()!
      this.flying = op
      if (this.state !== 'offline') this.state = 'saving'
      this.tell()
      try {
        let s: Kept
        if (op.kind === 'edit') {
          s = await this.server.save(this.id, this.revision, op.edit.label, op.edit.doc, this.base)
          this.took({ ...s, doc: s.doc ?? op.edit.doc })
          this.events.kept?.(s)
        } else s = this.took(await op.step(this.id, this.revision), true)
        if (!s.undo) this.dropSteps('undo')
        if (!s.redo) this.dropSteps('redo')
      } catch (e) {
        if (!(await this.failed(op, problemOf(e)))) break
      }
    }
    this.running = false
    if (this.ops.length === 0 && (this.state === 'saving' || this.state === 'offline')) this.state = 'saved'
    this.tell()
    await this.follow()
  }

  /** The scene stands at a revision, whose document is known. */
  private stand(s: { revision: number; doc: Document }) {
    this.revision = s.revision
    this.base = s.doc
  }

  private took<S extends { revision: number; doc: Document }>(s: S, step = false): S {
    this.flying = null
    this.stand(s)
    this.state = 'saving'
    this.keep()
    if (step) this.events.stepped?.(s as S & SceneState)
    return s
  }

  /** What went wrong; false where the person has to do something first. */
  private async failed(op: Op, problem: Partial<Problem> | undefined): Promise<boolean> {
    this.flying = null
    if (problem?.code === 'step') {
      this.dropSteps(op.kind === 'step' ? op.way : undefined) // nothing is left that way
      return true
    }
    if (problem?.code === 'conflict' && problem.current) {
      const theirs = problem.current
      if (op.kind === 'edit' && JSON.stringify(theirs.doc) === JSON.stringify(op.edit.doc)) {
        this.took(theirs) // our own: the server kept it and was cut off before it could say so
        this.events.kept?.(theirs)
        return true
      }
      if (op.kind === 'step') {
        this.dropSteps()
        if (this.ops.length === 0) {
          this.took(theirs, true) // nothing of this window is unsaved: it follows
          return true
        }
      } else this.ops.unshift(op)
      this.state = 'conflict'
      this.tell()
      this.events.conflict?.(theirs)
      return false
    }
    if (problem?.status === 404) {
      if (op.kind === 'edit') this.ops.unshift(op)
      this.state = 'gone'
      this.tell()
      return false
    }
    if (op.kind === 'edit' && (problem?.status === 422 || problem?.status === 413 || problem?.status === 400)) {
      this.ops.unshift(op)
      this.state = 'refused'
      this.tell()
      this.events.refused?.(problem)
      return false
    }
    if (op.kind === 'step' && problem?.status && problem.status < 500) return true
    // Not lost: it stays here and is sent again.
    this.ops.unshift(op)
    this.state = 'offline'
    this.trouble = problem?.code === 'disk' ? (problem.detail ?? '') : ''
    this.tell()
    await sleep(this.retryMs)
    return true
  }
}

/** Keeps unsaved edits in memory alone: for browsers without a database, and for tests. */
export function memoryKeeper(): Keeper {
  const all = new Map<string, Unsaved>()
  return {
    window: 'this',
    put: (u) => {
      all.set(u.key, { ...u, alive: false })
      return Promise.resolve(false)
    },
    drop: (key) => Promise.resolve(void all.delete(key)),
    list: () => Promise.resolve([...all.values()]),
  }
}
