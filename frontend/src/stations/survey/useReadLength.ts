/** A length that was read off a photograph goes into a field of the gadget, as measured. */
import { api } from '@/api/client'
import { useConversion } from '@/stores/conversion'
import { useReference } from '@/stores/reference'

export function useReadLength() {
  const reference = useReference()
  const conversion = useConversion()

  /** The bay that the old batteries tell, to be mended figure by figure. */
  async function inferredBay() {
    const { data } = await api.POST('/api/questions/fit', { body: conversion.question() })
    return data?.bay ?? null
  }

  async function use(length: number | string, path: string): Promise<void> {
    const bay = conversion.document?.gadget.bay ?? (await inferredBay())
    conversion.change((document) => {
      document.gadget.shell.outer_mm ??= [...reference.tables!.usual_outer_mm]
      if (path.startsWith('gadget.bay')) document.gadget.bay = bay
      document.basis = { ...document.basis, [path]: 'measured' }
    })
    conversion.edit(path, length)
  }

  return (length: number | string, path: string) => conversion.within(() => use(length, path))
}
