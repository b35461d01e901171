/** What a tab holds of a build until the server has it: kept in the browser, so that no reload, crash or closed tab takes it. */
export interface Locker {
  readonly read: () => string | null
  readonly write: (text: string | null) => void
  /** Records of tabs that are gone, taken over: each is handed out once. */
  readonly orphans: (take: (text: string) => void) => Promise<void>
}

const PREFIX = 'pindo.desk'
const LATER_MS = 1500

/** A name that nobody else has. `randomUUID` exists only on secure pages, and a shop's tablet may come over plain http. */
export const newName = (): string => Array.from(crypto.getRandomValues(new Uint32Array(4)), (n) => n.toString(36)).join('')
const lockOf = (tab: string) => `${PREFIX}.tab.${tab}`

/** Holds the lock of a tab for as long as the page lives; false where another page has it. */
function hold(tab: string): Promise<boolean> {
  return new Promise((answer) => {
    void navigator.locks.request(lockOf(tab), { ifAvailable: true }, (lock) => {
      answer(lock !== null)
      return lock === null ? undefined : new Promise(() => undefined)
    })
  })
}

let tabName: Promise<string> | null = null

/** The name of this tab: the same after a reload, another in a duplicate of it. */
async function nameOfTab(): Promise<string> {
  const before = sessionStorage.getItem(`${PREFIX}.tab`)
  const name = before ?? newName()
  const mine = !('locks' in navigator) || (await hold(name))
  const found = mine ? name : newName()
  if (!mine) await hold(found)
  sessionStorage.setItem(`${PREFIX}.tab`, found)
  return found
}

/** The locker of a build in this tab. */
export async function lockerOf(build: string): Promise<Locker> {
  const tab = await (tabName ??= nameOfTab())
  const key = (name: string) => `${PREFIX}.${build}.${name}`
  const adopt = async (take: (text: string) => void) => {
    const others = Object.keys(localStorage).filter((k) => k.startsWith(`${PREFIX}.${build}.`) && k !== key(tab))
    for (const other of others)
      await navigator.locks.request(lockOf(other.slice(key('').length)), { ifAvailable: true }, (lock) => {
        const text = lock === null ? null : localStorage.getItem(other)
        if (text === null) return
        localStorage.removeItem(other)
        take(text)
      })
  }
  return {
    read: () => localStorage.getItem(key(tab)),
    write: (text) => {
      try {
        if (text === null) localStorage.removeItem(key(tab))
        else localStorage.setItem(key(tab), text)
      } catch {
        // A full or forbidden store must not stop the hands: entries are sent all the same.
      }
    },
    orphans: async (take) => {
      if (!('locks' in navigator)) return
      await adopt(take)
      // A page that is just going still has its lock for a moment.
      window.setTimeout(() => void adopt(take), LATER_MS)
    },
  }
}
