<script setup lang="ts" generic="R extends object">
import { ElTable, ElTableColumn } from 'element-plus'
import { nextTick, onUpdated, ref, watch } from 'vue'

/**
 * Rows of figures. A column may be sorted by; where rows can be chosen, they are walked with the arrow keys and taken
 * with Enter or Space.
 */
interface Column {
  key: string
  title: string
  number?: boolean
  width?: number
  least?: number
  sorts?: (row: R) => string | number
  text?: (row: R) => string
}

const props = defineProps<{
  label: string
  rows: R[]
  columns: Column[]
  empty?: string
  tall?: boolean
  mark?: (row: R) => string
  choose?: (row: R) => void
}>()

const frame = ref<HTMLElement | null>(null)

function compared(a: string | number, b: string | number): number {
  return typeof a === 'number' && typeof b === 'number' ? a - b : String(a).localeCompare(String(b), 'en', { numeric: true })
}

function lines(): HTMLElement[] {
  return [...(frame.value?.querySelectorAll<HTMLElement>('.el-table__body tr') ?? [])]
}

function reach(): void {
  if (!props.choose) return
  for (const line of lines()) line.tabIndex = 0
}
watch(() => props.rows, () => void nextTick(reach), { immediate: true })
onUpdated(reach)

function walk(event: KeyboardEvent): void {
  const all = lines()
  const at = all.indexOf(event.target as HTMLElement)
  if (at < 0 || !props.choose) return
  if (event.key === 'Enter' || event.key === ' ') all[at]?.click()
  else if (event.key === 'ArrowDown') all[at + 1]?.focus()
  else if (event.key === 'ArrowUp') all[at - 1]?.focus()
  else return
  event.preventDefault()
  event.stopPropagation()
}

defineExpose({ frame })
</script>

<template>
  <div ref="frame" class="rows" :class="{ tall }" role="group" :aria-label="label" @keydown="walk">
    <ElTable
      :data="rows"
      :height="tall ? '100%' : undefined"
      :row-class-name="({ row }: { row: R }) => mark?.(row) ?? ''"
      :empty-text="empty ?? ''"
      size="small"
      @row-click="(row: R) => choose?.(row)"
    >
      <ElTableColumn
        v-for="column in columns"
        :key="column.key"
        :prop="column.key"
        :label="column.title"
        :width="column.width"
        :min-width="column.least"
        :align="column.number ? 'right' : 'left'"
        :sortable="column.sorts !== undefined"
        :sort-method="column.sorts ? (a: R, b: R) => compared(column.sorts!(a), column.sorts!(b)) : undefined"
        :show-overflow-tooltip="column.text !== undefined"
      >
        <template #default="{ row, $index }"><slot v-if="$index >= 0" :name="column.key" :row="row as R">{{ column.text?.(row as R) ?? '' }}</slot></template>
      </ElTableColumn>
    </ElTable>
  </div>
</template>
