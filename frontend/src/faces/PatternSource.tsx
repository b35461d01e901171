import type { ReactNode } from 'react'
import { CORNERS, type PatternFile, type Unit, type Way } from './patternFile'
import './faces.css'

/** The file, and what has to be said of it before it can be read: its unit, or what is known in a picture. */
export function PatternSource({ of, noScale, children }: { of: PatternFile; noScale: string; children?: ReactNode }) {
  const { file, picture, way, said, say, picked } = of
  const field = (key: keyof typeof said, words: string) => (
    <label className="field">
      {words}
      <input className="mono" value={said[key]} maxLength={12} onChange={(e) => say({ ...said, [key]: e.target.value })} />
    </label>
  )
  return (
    <>
      <div className="options">
        <label className="field">
          DXF, SVG, scan or photo
          <input type="file" accept=".dxf,.svg,image/png,image/jpeg,image/webp" onChange={of.choose} />
        </label>
        {children}
        {file !== null && !picture && (
          <label className="field">
            One unit of the drawing is
            <select value={of.unit} onChange={(e) => of.setUnit(e.target.value as Unit)}>
              <option value="">as the file says</option>
              {(['mm', 'cm', 'in'] as const).map((u) => (
                <option key={u}>{u}</option>
              ))}
            </select>
          </label>
        )}
        {picture && (
          <>
            <label className="field">
              Known in it
              <select value={way} onChange={(e) => of.setWay(e.target.value as Way)}>
                <option value="none">{noScale}</option>
                <option value="rectangle">a rectangle in the same plane, four corners</option>
                <option value="length">a length in the same plane</option>
              </select>
            </label>
            {way !== 'none' && field('width', way === 'length' ? 'its length, mm' : 'first to second corner, mm')}
            {way !== 'none' && field('width_pm', '±, mm')}
            {way === 'rectangle' && field('height', 'second to third corner, mm')}
            {way === 'rectangle' && field('height_pm', '±, mm')}
            {picked.length > 0 && (
              <button type="button" className="quiet" onClick={of.unpick}>
                take the last point back
              </button>
            )}
            <button type="button" className="plainbutton" disabled={!of.known} onClick={() => void of.look()}>
              Look through it
            </button>
          </>
        )}
      </div>
      <p role="status" aria-label="What was found">
        {picture && picked.length < CORNERS[way] ? `Pick ${way === 'length' ? 'the ends of the known length' : 'the corners of the known rectangle in turn'}: ${CORNERS[way] - picked.length} to go.` : picture && !of.known ? 'Type in what is known, in mm, and its ±.' : of.told}
      </p>
    </>
  )
}
