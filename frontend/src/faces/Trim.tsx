import { lazy, Suspense, useState } from 'react'
import { RowsEditor } from '../rows/RowsEditor'
import './faces.css'

const OutlinePanel = lazy(() => import('./OutlinePanel'))

/** The outlines of a trim and of the starter's body: typed, or out of a drawing or picture. */
export default function Trim() {
  const [bringing, bring] = useState(false)
  return (
    <>
      <div className="patternstart">
        <button type="button" className="plainbutton" onClick={() => bring(true)}>
          Outlines out of a drawing or picture
        </button>
      </div>
      {bringing && (
        <Suspense fallback={null}>
          <OutlinePanel close={() => bring(false)} />
        </Suspense>
      )}
      <RowsEditor listKey="outlines" open />
    </>
  )
}
