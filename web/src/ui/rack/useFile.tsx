import { useRef, useState } from 'react'
import { RequestError } from '../../api/client'
import { useBench } from '../../stores/bench'

/** Reads a chosen file by the server, and asks in a dialog how what it holds is to come in. */
export function useFile<T>(
  accept: string,
  testid: string,
  read: (file: File) => Promise<T>,
  dialog: (read: T, close: () => void) => React.ReactNode,
) {
  const pick = useRef<HTMLInputElement>(null)
  const [held, setHeld] = useState<T | null>(null)
  const load = async (file: File) => {
    try {
      setHeld(await read(file))
    } catch (e) {
      if (!(e instanceof RequestError)) throw e
      useBench.getState().say(`${file.name}: ${e.message}`)
    }
  }
  const input = (
    <>
      <input
        ref={pick}
        type="file"
        accept={accept}
        hidden
        data-testid={testid}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) void load(file)
        }}
      />
      {held && dialog(held, () => setHeld(null))}
    </>
  )
  return { input, choose: () => pick.current?.click(), load }
}
