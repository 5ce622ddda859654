/** How each kind of net is drawn, on every picture of the wiring: by colour, and by dashes for whoever sees none. */
import type { WiringReply } from '@/api/client'
import { t } from '@/words'

export type NetRole = WiringReply['drawing']['nets'][number]['role']

export const NETS: Record<NetRole, { says: string; stroke: string; dashes?: string }> = {
  five: { says: '5 V', stroke: '#d9822b', dashes: '4 1.2' },
  cell_plus: { says: t('cell plus'), stroke: 'var(--stop)' },
  cell_minus: { says: t('cell minus'), stroke: 'var(--ink)' },
  out_plus: { says: t('protected plus'), stroke: 'var(--copper)', dashes: '2.5 1' },
  ground: { says: t('load minus'), stroke: 'var(--ink3)', dashes: '1 1' },
  gadget_plus: { says: t('gadget plus'), stroke: 'var(--caution)', dashes: '6 1 1 1' },
  other: { says: t('other'), stroke: 'var(--note)', dashes: '1 2' },
}
export const lineOf = (role: NetRole) => ({
  stroke: NETS[role].stroke,
  'stroke-dasharray': NETS[role].dashes,
})
