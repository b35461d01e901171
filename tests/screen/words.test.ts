import { describe, expect, it } from 'vitest'
import { foundBy, waysToSay } from '../../frontend/src/shell/shopWords'

const rows = ['Release bearing parked, from the mouth', 'Bell depth from the mouth', 'Engine under the bonnet', 'Clutch cover height']

describe('words of the shop', () => {
  it('find what the screen calls otherwise', () => {
    expect(foundBy('throwout', rows, (r) => r)).toEqual([rows[0]])
    expect(foundBy('bellhousing depth', rows, (r) => r)).toEqual([rows[1]])
    expect(foundBy('Hood', rows, (r) => r)).toEqual([rows[2]])
    expect(foundBy('pressure plate', rows, (r) => r)).toEqual([rows[3]])
  })
  it('leave what is said as it is typed first, and nothing twice', () => {
    expect(foundBy('mouth', rows, (r) => r)).toEqual([rows[0], rows[1]])
    expect(waysToSay('bell')[0]).toBe('bell')
    expect(foundBy('', rows, (r) => r)).toEqual(rows)
    expect(foundBy('moon', rows, (r) => r)).toEqual([])
  })
})
