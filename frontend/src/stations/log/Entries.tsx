import Button from '@mui/material/Button'
import { useQuery } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { api, queries } from '../../api/client'
import { useBuild } from '../../shell/buildContext'
import { useVisit } from '../../shell/visit'
import { setSettings, useSettings } from '../../shell/settings'
import { Photo } from './Photo'
import './log.css'

/** Entries, newest first, with their pictures; a new one in one line. */
export default function Entries() {
  const { state, change, dimension } = useBuild()
  const [text, setText] = useState('')
  const { who } = useSettings()
  const [files, setFiles] = useState<File[]>([])
  const [wrong, setWrong] = useState('')
  const entries = state.document.log
  const visit = useVisit()
  const pinned = (pin: string) =>
    pin !== '' && (
      <button type="button" className="quiet" onClick={() => visit(pin)}>
        {dimension(pin)?.name ?? pin}
      </button>
    )
  const photos = useQuery({ ...queries.photos(state.id, state.tag), enabled: entries.some((e) => e.photos.length > 0) })
  const add = async (event: FormEvent) => {
    event.preventDefault()
    if (text.trim() === '') {
      setWrong('Say what happened first.')
      return
    }
    try {
      const photos = await Promise.all(files.map((f) => api.keepPhoto(state.id, f)))
      const refused = await change([{ do: 'add', list: 'log', row: { name: text.trim().slice(0, 200), note: text.trim().slice(200), who, at: new Date().toISOString(), photos } as never }], 'log entry')
      setWrong(refused ?? '')
      if (refused === null) {
        setText('')
        setFiles([])
      }
    } catch (error) {
      setWrong(error instanceof Error ? error.message : String(error))
    }
  }
  return (
    <section aria-label="Log entries">
      <div className="panelhead">
        <h2>Log</h2>
        <span className="soft">{entries.length} entries</span>
      </div>
      <form className="options logform" onSubmit={(e) => void add(e)}>
        <label className="field note">
          What happened
          <input value={text} onChange={(e) => setText(e.target.value)} maxLength={2000} />
        </label>
        <label className="field">
          Who
          <input value={who} onChange={(e) => setSettings({ who: e.target.value })} maxLength={200} />
        </label>
        <Button variant="outlined" component="label">
          {files.length > 0 ? `${files.length} photo${files.length > 1 ? 's' : ''}` : 'Photo'}
          <input type="file" accept="image/jpeg,image/png,image/webp" multiple hidden onChange={(e) => setFiles([...(e.target.files ?? [])])} />
        </Button>
        <Button variant="contained" type="submit">
          Write it down
        </Button>
        {wrong && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
      </form>
      <ol className="plain entries">
        {[...entries].reverse().map((e) => (
          <li key={e.n}>
            <span className="soft">
              {e.at.slice(0, 10)} {e.who} {e.about && `· ${e.about}`} {pinned(e.pin)}
            </span>
            <div>
              <b>{e.name}</b> {e.note}
            </div>
            {e.sounds.map((s) => (
              <audio key={s} controls preload="none" src={`/api/builds/${state.id}/photos/${s}`} aria-label={`Voice note with entry ${e.n}: ${e.name}`} />
            ))}
            {e.photos.map((p) => (
              <Photo key={p} entry={e.n} build={state.id} photo={p} of={`Photo with entry ${e.n}: ${e.name}`} deleted={photos.data !== undefined && !photos.data.some((x) => x.id === p)} />
            ))}
          </li>
        ))}
      </ol>
    </section>
  )
}
