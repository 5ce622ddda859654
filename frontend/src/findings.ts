/** Findings as they are told: each cause once, with all that comes of it. What belongs together is the core's say. */
import type { Finding } from '@/api/client'

export interface Cause {
  finding: Finding
  others: Finding[]
}

export function byCause(findings: readonly Finding[]): Cause[] {
  const open = findings.filter(({ level }) => level !== 'pass')
  return open
    .filter(({ part_of }) => !part_of)
    .map((finding) => ({ finding, others: open.filter(({ part_of }) => part_of === finding.id) }))
}
