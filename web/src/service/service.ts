import { ref, shallowRef } from 'vue'

import { base64 } from '../api/base64'
import { client, sentence, type Schemas } from '../api/client'
import { INCH } from '../api/tables'

export type Enquiry = Schemas['EnquiryShown']
export type Wanted = Schemas['Wanted']
export type Catalogue = Schemas['CatalogueShown']['catalogue']

/** The service's catalogue, asked for once. */
export function useCatalogue() {
  const catalogue = shallowRef<Catalogue | null>(null)
  const money = ref('')
  void client.GET('/api/service/catalogue').then(({ data }) => {
    if (!data) return
    catalogue.value = data.catalogue
    money.value = data.money
  })
  return { catalogue, money }
}

/** Sends a file to the service. Throws what it says where it does not take it. */
export async function sendFile(file: File): Promise<Enquiry> {
  const { data, error } = await client.POST('/api/service/files', { body: { name: file.name.slice(0, 120), data: await base64(file) } })
  if (!data) throw new Error(sentence(error))
  return data
}

/** A length as customers of either habit know it. */
export function inBoth(mm: number): string {
  return `${mm.toFixed(1)} mm (${(mm / INCH).toFixed(3)} in)`
}

