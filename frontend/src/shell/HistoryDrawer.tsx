import Button from '@mui/material/Button'
import Drawer from '@mui/material/Drawer'
import { useBuild } from './buildContext'
import { HistoryList } from './HistoryList'
import { setSettings, useSettings } from './settings'
import './shell.css'

/** The journal of the open build, and who works here. */
export function HistoryDrawer({ close }: { close: () => void }) {
  const { state } = useBuild()
  const { who } = useSettings()
  return (
    <Drawer anchor="right" open onClose={close} slotProps={{ paper: { 'aria-label': 'History', role: 'dialog' } }}>
      <div className="history">
        <div className="panelhead">
          <h2>History</h2>
          <Button variant="outlined" onClick={close} autoFocus>
            Close
          </Button>
        </div>
        <label className="field">
          Who works here
          <input value={who} onChange={(e) => setSettings({ who: e.target.value })} maxLength={200} />
        </label>
        <HistoryList id={state.id} tag={state.tag} />
      </div>
    </Drawer>
  )
}
