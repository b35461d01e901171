import Drawer from '@mui/material/Drawer'
import { useEffect, useState, type FormEvent } from 'react'
import { api } from '../api/client'
import { useBuild } from '../shell/buildContext'
import { setSettings, useSettings } from '../shell/settings'
import { useDropped } from './dropped'
import { PinSelect } from './PinSelect'
import './photos.css'

/** Photos that were dropped or taken: what they show, said once, and they are in the log with it. */
export function PhotoPanel({ close }: { close: () => void }) {
  const { state, change } = useBuild()
  const dropped = useDropped()
  const { who } = useSettings()
  const [files, take] = useState(dropped.files)
  const [pin, choose] = useState(dropped.pin)
  const [words, say] = useState('')
  const [wrong, tell] = useState('')
  const [shown, show] = useState<string[]>([])
  useEffect(() => {
    const made = files.map((f) => URL.createObjectURL(f))
    show(made)
    return () => made.forEach((address) => URL.revokeObjectURL(address))
  }, [files])
  const keep = async (event: FormEvent) => {
    event.preventDefault()
    try {
      const photos = await Promise.all(files.map((f) => api.keepPhoto(state.id, f)))
      const refused = await change([{ do: 'add', list: 'log', row: { name: words.trim() || 'Photo', who, at: new Date().toISOString(), photos, pin } as never }], `photo${photos.length > 1 ? 's' : ''} kept`)
      if (refused === null) close()
      else tell(refused)
    } catch (error) {
      tell(`${error instanceof Error ? error.message : String(error)} The photos are still here.`)
    }
  }
  return (
    <Drawer anchor="right" open onClose={close}>
      <form className="photopanel" aria-label="Photos" onSubmit={(e) => void keep(e)}>
        <div className="panelhead">
          <h2>{files.length === 1 ? 'A photo' : `${files.length} photos`}</h2>
          <button type="button" className="plainbutton" onClick={close}>
            Close
          </button>
        </div>
        <div className="photorow">
          {shown.map((address, i) => (
            <img key={address} src={address} alt={`Photo ${i + 1} of ${shown.length}`} height={120} />
          ))}
        </div>
        <label className="field">
          Choose photos
          <input type="file" accept="image/jpeg,image/png,image/webp" multiple onChange={(e) => take([...(e.target.files ?? [])])} />
        </label>
        <PinSelect pin={pin} choose={choose} />
        <label className="field">
          What it shows
          <input value={words} maxLength={200} onChange={(e) => say(e.target.value)} />
        </label>
        <label className="field">
          Who
          <input value={who} maxLength={200} onChange={(e) => setSettings({ who: e.target.value })} />
        </label>
        {wrong && (
          <p role="alert" className="fouls">
            {wrong}
          </p>
        )}
        <button type="submit" className="plainbutton main" disabled={files.length === 0}>
          Keep in the log
        </button>
      </form>
    </Drawer>
  )
}
