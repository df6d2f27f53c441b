import { useEffect, useRef, useState } from 'react'
import type { FilmKind } from '../../core/film'
import { filmsHere, Given, makeFilm, makeStill, type Film } from '../../scene/film'
import type { Booth } from '../../scene/Studio'
import { useBench } from '../../stores/bench'
import { useClock } from '../../stores/clock'
import { useView } from '../../stores/prefs'
import { jobOf, kindNames, type FilmWish } from './filmWish'

/** What is being made. */
export type Making = 'film' | 'still' | 'copy'

/** Where those outside the page who asked for a film find it. */
const outside = window as unknown as { film?: { blob?: Blob; error?: string; done?: number; of?: number } }

/** What a film is to be, and the making of it. */
export function useFilm() {
  const doc = useBench((b) => b.doc)!
  const asked = useView((v) => v.wantsFilm) as FilmWish | null
  const wantsStill = useView((v) => v.wantsStill)
  const [wish, setWish] = useState<FilmWish>({ camera: doc.cameras?.[0]?.id ?? '', ...asked })
  const [kinds, setKinds] = useState<FilmKind[]>()
  const [making, setMaking] = useState<Making | null>(null)
  const [progress, setProgress] = useState<[number, number, number] | null>(null)
  const [done, setDone] = useState<(Film & { url: string }) | null>(null)
  const [error, setError] = useState('')
  const stop = useRef<AbortController>(null)
  const job = jobOf(wish, doc, kinds ?? ['apng', 'png'])
  const { width, height } = job

  useEffect(() => {
    let gone = false
    void filmsHere(width, height).then((k) => !gone && setKinds(k))
    return () => void (gone = true)
  }, [width, height])

  // Who leaves the panel gives up what is being made.
  useEffect(() => () => stop.current?.abort(), [])

  // Asked for from outside, it begins by itself.
  const begun = useRef(false)
  useEffect(() => {
    if (!asked || begun.current || !kinds) return
    begun.current = true
    if (asked.kind && !kinds.includes(asked.kind)) {
      const others = kinds.map((k) => kindNames[k]).join(', ')
      outside.film = {
        error: `This browser makes no ${kindNames[asked.kind]} of ${width} × ${height}. It makes: ${others}.`,
      }
      return
    }
    setTimeout(() => setMaking('film'))
  }, [asked, kinds, width, height])

  // A still of the present view by one press.
  useEffect(() => {
    if (!wantsStill) return
    useView.setState({ wantsStill: false })
    setTimeout(() => {
      setWish((w) => ({ ...w, camera: '', width: undefined, height: undefined }))
      setMaking('still')
    })
  }, [wantsStill])

  async function film(booth: Booth, signal: AbortSignal) {
    const film = await makeFilm(job, booth, signal, (n, of, left) => {
      setProgress([n, of, left])
      if (asked) outside.film = { done: n, of }
    })
    const url = URL.createObjectURL(film.blob)
    setDone((was) => {
      if (was) URL.revokeObjectURL(was.url)
      return { ...film, url }
    })
    if (asked) outside.film = { blob: film.blob }
    else fetchAs(url, `${doc.name}.${film.ending}`)
  }

  async function still(booth: Booth, signal: AbortSignal, copy: boolean) {
    const { frame } = useClock.getState()
    const still = await makeStill({ ...job, first: frame, last: frame }, booth, signal)
    if (copy) {
      await navigator.clipboard.write([new ClipboardItem({ 'image/png': still })])
      useBench.getState().say(`Frame ${frame} is on the clipboard, ${width} × ${height}.`)
      return
    }
    const url = URL.createObjectURL(still)
    fetchAs(url, `${doc.name} frame ${frame}.png`)
    setTimeout(() => URL.revokeObjectURL(url), 60_000)
  }

  /** Makes what is wanted once the studio stands. */
  async function shoot(booth: Booth) {
    const control = new AbortController()
    stop.current = control
    try {
      if (making === 'film') await film(booth, control.signal)
      else await still(booth, control.signal, making === 'copy')
    } catch (e) {
      const said = control.signal.aborted && !(e instanceof Given) ? 'It was given up.' : (e as Error).message
      setError(said)
      if (asked) outside.film = { error: said }
    } finally {
      setMaking(null)
      setProgress(null)
    }
  }

  return {
    wish,
    set: (more: FilmWish) => setWish((was) => ({ ...was, ...more })),
    job,
    kinds,
    making,
    progress,
    done,
    error,
    begin: (what: Making) => {
      setError('')
      if (what === 'film') setDone(null)
      setMaking(what)
    },
    cancel: () => stop.current?.abort(),
    shoot,
  }
}

/** Saves what is at an address as a file. */
export function fetchAs(url: string, name: string) {
  const a = document.createElement('a')
  a.href = url
  a.download = name.replace(/[/\\:*?"<>|]/g, '_')
  a.click()
}
