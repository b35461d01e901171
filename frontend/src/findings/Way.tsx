import Button from '@mui/material/Button'
import type { WayOut } from '../api/types'
import { figure, written } from '../api/units'
import { useBuild } from '../shell/buildContext'
import './findings.css'

/** A way out: what it changes, from and to, what that takes from another finding, and a button that tries it. */
export function Way({ way, then }: { way: WayOut; then?: () => void }) {
  const { system, tryValues } = useBuild()
  const tried = () => {
    tryValues({ [way.address]: way.target })
    then?.()
  }
  return (
    <div className="way">
      <span>
        {way.letter && <b>{way.letter} </b>}
        {way.name}{' '}
        <span className="mono">
          {figure(way.current, way.kind, system)} → {written(way.target, way.kind, system)}
        </span>
        {way.high > way.low && (
          <span className="soft">
            {' '}
            this one goes from {figure(way.low, way.kind, system)} to {written(way.high, way.kind, system)}
          </span>
        )}
        {way.costs.mm && <span className="tight"> {system === 'in' ? way.costs.inch : way.costs.mm}</span>}
      </span>
      <Button variant="outlined" onClick={tried} aria-label={`Try ${way.name}`}>
        Try
      </Button>
    </div>
  )
}
