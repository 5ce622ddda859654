/** The photographs of the open conversion, fetched as it is opened. */
import { watch } from 'vue'

import { useConversion } from '@/stores/conversion'
import { usePhotos } from '@/stores/photos'

export function useOpenPhotos(): ReturnType<typeof usePhotos> {
  const conversion = useConversion()
  const photos = usePhotos()
  watch(
    () => conversion.stored?.id,
    (id) => id && photos.load(id),
    { immediate: true },
  )
  return photos
}
