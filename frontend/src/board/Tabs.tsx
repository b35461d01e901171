import './board.css'
/** A row of views of one board; arrow keys move between them as tabs do. */
export function Tabs<T extends string>({ label, names, chosen, choose }: { label: string; names: readonly (readonly [T, string])[]; chosen: T; choose: (name: T) => void }) {
  const move = (by: number) => {
    const at = names.findIndex(([name]) => name === chosen)
    const next = names[(at + by + names.length) % names.length]
    if (next) choose(next[0])
  }
  return (
    <div className="tabs" role="tablist" aria-label={label}>
      {names.map(([name, words]) => (
        <button
          key={name}
          type="button"
          role="tab"
          aria-selected={name === chosen}
          tabIndex={name === chosen ? 0 : -1}
          onClick={() => choose(name)}
          onKeyDown={(e) => {
            if (e.key === 'ArrowRight') move(1)
            if (e.key === 'ArrowLeft') move(-1)
          }}
        >
          {words}
        </button>
      ))}
    </div>
  )
}
