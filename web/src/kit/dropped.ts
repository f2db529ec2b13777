import { useDropZone } from '@vueuse/core'

/** Files dropped anywhere on the page; a field that takes files of its own has its own first. */
export function onDropped(take: (files: File[]) => void): void {
  useDropZone(document.body, {
    onDrop: (files, event) => {
      if (files?.length && !(event.target as HTMLElement).closest('.file-field')) take(files)
    },
  })
}
