import { useSyncExternalStore } from 'react'
import { openPanel } from '../shell/looked'

/** Photos that were dropped, pasted or chosen, and what they are to be pinned to; empty for nobody said. */
interface Dropped {
  readonly files: readonly File[]
  readonly pin: string
}

let now: Dropped = { files: [], pin: '' }
const listeners = new Set<() => void>()

/** Lays photos on the desk: the panel opens that says what they show. */
export function layPhotos(files: readonly File[], pin: string): void {
  now = { files, pin }
  listeners.forEach((tell) => tell())
  openPanel('photos')
}

export const useDropped = (): Dropped =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell)
      return () => listeners.delete(tell)
    },
    () => now,
  )

const pictures = (data: DataTransfer | null): File[] => [...(data?.files ?? [])].filter((f) => f.type.startsWith('image/'))

/** Photos that are dropped or pasted anywhere over a station; `pinned` says what is in hand. */
export function catchPhotos(pinned: () => string): () => void {
  const over = (event: DragEvent) => {
    if ([...(event.dataTransfer?.items ?? [])].some((i) => i.kind === 'file')) event.preventDefault()
  }
  const take = (event: Event, files: File[]) => {
    if (files.length === 0) return
    event.preventDefault()
    layPhotos(files, pinned())
  }
  const drop = (event: DragEvent) => {
    // Text that is dragged belongs to its field; a file that is no picture would open in place of the build.
    if ((event.dataTransfer?.files.length ?? 0) > 0) event.preventDefault()
    take(event, pictures(event.dataTransfer))
  }
  const paste = (event: ClipboardEvent) => {
    // Cells of a spreadsheet come with a picture of themselves: their text is meant.
    if (!event.defaultPrevented && event.clipboardData?.getData('text/plain') === '') take(event, pictures(event.clipboardData))
  }
  window.addEventListener('dragover', over)
  window.addEventListener('drop', drop)
  window.addEventListener('paste', paste)
  return () => {
    window.removeEventListener('dragover', over)
    window.removeEventListener('drop', drop)
    window.removeEventListener('paste', paste)
  }
}
