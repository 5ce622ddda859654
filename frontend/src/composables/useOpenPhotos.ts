/** The photographs of the open conversion, fetched as it is opened and whenever another device has changed them. */
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
  watch(
    () => conversion.elsewhere.photos,
    () => conversion.stored && photos.load(conversion.stored.id),
  )
  return photos
}
