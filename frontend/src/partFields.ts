/** The fields of each kind of own part, in the order a maker fills them in. */
import type { InventoryKind } from '@/stores/inventory'

export interface PartField {
  path: string
  label: string
  unit?: string
  hint?: string
  kind?: 'size' | 'words' | 'yes' | 'readings'
  choices?: string[]
  /** What an empty field stands for, where that is not "not known". */
  empty?: unknown
}

const BOARD: PartField[] = [
  { path: 'name', label: 'name' },
  { path: 'outline_mm', label: 'length x width x height', unit: 'mm', kind: 'size', hint: '28 x 17 x 4' },
  { path: 'price', label: 'price' },
]

export const FIELDS_OF: Record<InventoryKind, PartField[]> = {
  cell: [
    { path: 'name', label: 'name' },
    { path: 'origin', label: 'origin', choices: ['new', 'salvaged'] },
    { path: 'form', label: 'form', choices: ['pouch', 'round', 'block'] },
    { path: 'cell_class', label: 'class', choices: ['li_4v20', 'li_4v35', 'lfp'] },
    { path: 'size_mm', label: 'size', unit: 'mm', kind: 'size', hint: '5 x 34 x 50' },
    { path: 'capacity_ah', label: 'label says', unit: 'mAh' },
    { path: 'measured_capacity_ah', label: 'measured', unit: 'mAh' },
    { path: 'r_ohm', label: 'resistance', unit: 'mΩ' },
    { path: 'charge_max_a', label: 'takes at most', unit: 'mA' },
    { path: 'discharge_max_a', label: 'gives at most', unit: 'mA' },
    { path: 'own_protection', label: 'has its own protection', kind: 'yes' },
    { path: 'intake.found_in', label: 'found in' },
    { path: 'intake.rest_v', label: 'at rest', unit: 'V' },
    { path: 'intake.thickness_mm', label: 'thick', unit: 'mm' },
    { path: 'intake.damage', label: 'damage', kind: 'words', hint: 'dent, smell', empty: [] },
    { path: 'intake.loads.0.current_a', label: 'first load', unit: 'mA' },
    { path: 'intake.loads.0.volts', label: 'shows', unit: 'V' },
    { path: 'intake.loads.1.current_a', label: 'second load', unit: 'mA' },
    { path: 'intake.loads.1.volts', label: 'shows', unit: 'V' },
    { path: 'intake.drop_24h_v', label: 'lost in a day', unit: 'mV' },
    { path: 'price', label: 'price' },
  ],
  charger: [
    ...BOARD,
    { path: 'charger.k_volts', label: 'K', unit: 'V', hint: '1200' },
    { path: 'charger.rated_a', label: 'made for', unit: 'mA' },
    { path: 'charger.float_v', label: 'stops at', unit: 'V', hint: '4.20' },
    { path: 'charger.r_prog_ohm', label: 'resistor as delivered', unit: 'kΩ' },
    { path: 'charger.theta_ja_c_per_w', label: 'theta', unit: 'C/W' },
    {
      path: 'charger.r_table',
      label: 'measured on it: ohm, amps',
      kind: 'readings',
      hint: '3k 390mA; 10k 118mA',
      empty: [],
    },
  ],
  protection: [
    ...BOARD,
    { path: 'protection.v_trip', label: 'trips at a drop of', unit: 'V', hint: '0.15' },
    { path: 'protection.r_on_ohm', label: 'each transistor', unit: 'mΩ', hint: '25' },
    { path: 'protection.cut_v', label: 'cuts at', unit: 'V', hint: '2.5' },
  ],
  regulator: [
    ...BOARD,
    { path: 'regulator.kind', label: 'kind', choices: ['diode', 'ldo', 'buck', 'boost', 'buck_boost'] },
    { path: 'regulator.v_set', label: 'gives', unit: 'V' },
    { path: 'regulator.iq_a', label: 'draws itself', unit: 'μA' },
    { path: 'regulator.efficiency', label: 'efficient at best', unit: '%' },
    { path: 'regulator.rated_a', label: 'made for', unit: 'mA' },
    { path: 'regulator.v_in_max', label: 'takes at most', unit: 'V' },
    { path: 'regulator.has_enable', label: 'has an enable pin', kind: 'yes' },
  ],
  resistor: [
    { path: 'name', label: 'name', hint: 'chip 0805' },
    { path: 'r_ohm', label: 'value', unit: 'Ω', hint: '3k' },
    { path: 'tolerance', label: 'tolerance', unit: '%', hint: '1' },
    { path: 'mounting', label: 'mounting', choices: ['chip', 'leaded'] },
  ],
}

export const PART_FIELDS: { kind: InventoryKind; label: string; teach: string }[] = [
  {
    kind: 'cell',
    label: 'Cells',
    teach: 'Used cells wait here for their readings; like ones find each other.',
  },
  { kind: 'charger', label: 'Chargers', teach: 'Boards you have, with the currents you measured on them.' },
  { kind: 'protection', label: 'Protections', teach: 'Protection boards you have.' },
  { kind: 'regulator', label: 'Regulators', teach: 'Regulators, diodes and converters you have.' },
  { kind: 'resistor', label: 'Resistors', teach: 'Charge tries these first, alone and two together.' },
]
