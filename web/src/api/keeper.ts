import { memoryKeeper, type Edit, type Keeper, type Unsaved } from '../core/saveQueue'
import { documentVersion } from '../core/value'
import { presentDocument } from './client'

// Unsaved edits in this browser's own database (IndexedDB), which holds documents of any size.

const table = 'unsaved'

function open(): Promise<IDBDatabase> {
  return new Promise((done, fail) => {
    const asked = indexedDB.open('bead', 1)
    asked.onupgradeneeded = () => asked.result.createObjectStore(table, { keyPath: 'key' })
    asked.onsuccess = () => done(asked.result)
    asked.onerror = () => fail(asked.error ?? new Error('no database'))
  })
}

/**
 * Set while something is kept. Without it the database is not opened: a page that is left while it opens one for
 * the first time would hold up the next page.
 */
const flag = 'bead-unsaved'

/** Key under which each window notes, with its name, when it was last there. */
const aliveFlag = 'bead-alive-'

/** A window that has said nothing for so long is gone, milliseconds. */
const deadAfter = 4000

/** This window's name. */
const self = Math.random().toString(36).slice(2)

/** A browser that does not answer within this time keeps nothing for now, milliseconds. */
const patience = 2500

/** How often it is asked to keep something. */
const tries = 4

function within<T>(p: Promise<T>): Promise<T> {
  return Promise.race([
    p,
    new Promise<never>((_, fail) => setTimeout(() => fail(new Error('the database does not answer')), patience)),
  ])
}

/** An edit that an older page left has a document of an older version. */
const present = async (e: Edit): Promise<Edit> =>
  e.doc.bead === documentVersion ? e : { ...e, doc: await presentDocument(e.doc) }

/** The browser's database; while that does not answer, memory alone, so that nothing waits for it long. */
function browserKeeper(): Keeper {
  const memory = memoryKeeper()
  let db: Promise<IDBDatabase> | null = null
  let broken = false // the last time it was asked
  const ask = async <T>(
    mode: IDBTransactionMode,
    fn: (s: IDBObjectStore) => IDBRequest<T>,
    instead: () => Promise<T>,
  ): Promise<T> => {
    try {
      db ??= open()
      const transaction = (await within(db)).transaction(table, mode)
      const answer = await within(
        new Promise<T>((done, fail) => {
          const asked = fn(transaction.objectStore(table))
          // What is written stands only once the whole is complete.
          transaction.oncomplete = () => done(asked.result)
          transaction.onabort = () => fail(transaction.error ?? new Error('the database refuses'))
          asked.onerror = () => fail(asked.error ?? new Error('the database does not answer'))
        }),
      )
      broken = false
      return answer
    } catch {
      broken = true
      db = null
      return instead()
    }
  }
  /** Windows with unsaved edits say that they are there. */
  let beat: ReturnType<typeof setInterval> | undefined
  const alive = (key: string) => {
    const window = key.split(' ')[1] ?? ''
    return Date.now() - Number(localStorage[aliveFlag + window] ?? 0) < deadAfter
  }
  const say = () => {
    localStorage[aliveFlag + self] = String(Date.now())
  }
  // A window that is reloaded or closed is gone at once, so that its edits are taken up by the next;
  // one that the browser brings back from its memory is there again.
  addEventListener('pagehide', () => localStorage.removeItem(aliveFlag + self))
  addEventListener('pageshow', () => beat && say())
  return {
    window: self,
    put: async (u) => {
      await memory.put(u)
      localStorage[flag] = '1'
      say()
      beat ??= setInterval(say, deadAfter / 4)
      for (let n = 0; n < tries; n++) {
        await ask<IDBValidKey>(
          'readwrite',
          (s) => s.put(u),
          () => Promise.resolve(u.key),
        )
        if (!broken) return true
      }
      return false
    },
    drop: async (key) => {
      await memory.drop(key)
      if (!localStorage[flag]) return
      await ask<undefined>(
        'readwrite',
        (s) => s.delete(key),
        () => Promise.resolve(undefined),
      )
      if ((await memory.list()).length === 0) {
        clearInterval(beat)
        beat = undefined
        localStorage.removeItem(aliveFlag + self)
      }
      const left = await ask<number>(
        'readonly',
        (s) => s.count(),
        () => Promise.resolve(1),
      )
      if (left === 0) localStorage.removeItem(flag)
    },
    list: async () => {
      if (!localStorage[flag]) return []
      const all = await ask(
        'readonly',
        (s) => s.getAll() as IDBRequest<Unsaved[]>,
        () => memory.list(),
      )
      const read = await Promise.allSettled(
        all.map(async (u) => ({ ...u, alive: alive(u.key), edits: await Promise.all(u.edits.map(present)) })),
      )
      // What cannot be read now stays where it is, and holds up no other.
      return read.flatMap((r) => (r.status === 'fulfilled' ? [r.value] : []))
    },
  }
}

export const keeper: Keeper = typeof indexedDB === 'undefined' ? memoryKeeper() : browserKeeper()
