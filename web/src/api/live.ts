import { patchOf } from '../core/patch'
import { readMessage, type Message } from '../core/wire'
import type { Document } from '../core/page.generated'

/** Milliseconds for which an edit that is kept waits for the answer to the one before. */
const patience = 250

/**
 * The live channel: sends edits, hands back answers. While an answer is out only
 * the newest edit waits, so dragging never queues up; after a break the channel
 * comes back by itself and sends the newest edit again.
 */
export class LiveChannel {
  private socket: WebSocket | null = null
  private seq = 0
  private waiting = false
  private sentAt = 0
  private queued: { doc: Document; frame: number; fill: boolean } | null = null
  private newest: { doc: Document; frame: number; fill: boolean } | null = null
  private sent: Document | null = null
  /** The last document that this connection was told of. */
  private base: Document | null = null
  private closed = false
  private retry = 250

  constructor(
    private readonly scene: string,
    /** The document is the one of the edit that the message answers. */
    private readonly onMessage: (m: Message, doc: Document) => void,
    private readonly onState: (open: boolean) => void,
    private readonly onMoved: (revision: number) => void,
    private readonly onUnread: (why: string) => void,
  ) {
    this.open()
  }

  private open() {
    const url = new URL(`/api/scenes/${this.scene}/live`, location.href)
    url.protocol = url.protocol.replace('http', 'ws')
    const socket = new WebSocket(url)
    socket.binaryType = 'arraybuffer'
    this.socket = socket
    socket.onopen = () => {
      this.retry = 250
      this.waiting = false
      this.base = null
      this.onState(true)
      const again = this.queued ?? this.newest
      this.queued = null
      if (again) this.edit(again.doc, again.frame, again.fill || this.newest!.fill)
    }
    socket.onmessage = (e) => {
      const m = this.read(e.data as ArrayBuffer)
      if (!m) return
      if (m.kind === 'moved') {
        this.onMoved(m.moved.revision)
        return
      }
      if ((m.kind === 'scene' || m.kind === 'fault') && m.seq === this.seq) this.waiting = false
      // An answer to an older edit is not shown for a newer one.
      if (m.seq === this.seq && this.sent) this.onMessage(m, this.sent)
      if (!this.waiting && this.queued) {
        const q = this.queued
        this.queued = null
        this.edit(q.doc, q.frame, q.fill)
      }
    }
    socket.onclose = () => {
      if (this.socket !== socket || this.closed) return
      this.onState(false)
      setTimeout(() => !this.closed && this.open(), this.retry)
      this.retry = Math.min(this.retry * 2, 4000)
    }
  }

  /** What came, or nothing where it is not understood: that is said, and the next edit is sent all the same. */
  private read(data: ArrayBuffer): Message | undefined {
    try {
      return readMessage(data)
    } catch (e) {
      this.waiting = false
      this.onUnread(e instanceof Error ? e.message : String(e))
      return undefined
    }
  }

  /** Sends a document; fill asks for checks and the other frames as well. */
  edit(doc: Document, frame: number, fill: boolean) {
    this.newest = { doc, frame, fill }
    // An edit to be kept does not wait for an answer that nobody will look at: the server ends that one.
    const tooLong = fill && Date.now() - this.sentAt > patience
    if ((this.waiting && !tooLong) || this.socket?.readyState !== WebSocket.OPEN) {
      this.queued = this.newest
      return
    }
    this.queued = null // what waited is older
    this.waiting = true
    this.sentAt = Date.now()
    this.seq++
    this.sent = doc
    const patch = this.base && patchOf(this.base, doc)
    this.base = doc
    this.socket.send(JSON.stringify({ seq: this.seq, frame, fill, ...(patch ? { patch } : { doc }) }))
  }

  /** Asks for frames that are not here, the first one first; false where it cannot be asked now. */
  look(frames: number[]): boolean {
    if (this.socket?.readyState !== WebSocket.OPEN || this.waiting || frames.length === 0) return false
    this.socket.send(JSON.stringify({ seq: this.seq, frame: frames[0], frames: frames.slice(1), fill: false }))
    return true
  }

  /** Gives up the simulation that frames wait for; the next edit goes on with it. */
  stop() {
    if (this.socket?.readyState === WebSocket.OPEN) this.socket.send(JSON.stringify({ seq: this.seq, stop: true }))
  }

  close() {
    this.closed = true
    this.socket?.close()
  }
}
