<script setup lang="ts">
// Something in a drawing to take hold of and pull up or down, or to move with the arrow keys.
defineProps<{ label: string; now: number; text: string; least: number; most: number; fixed: boolean }>();
defineEmits<{ grab: [PointerEvent]; drag: [PointerEvent]; drop: []; cancel: []; nudge: [KeyboardEvent] }>();
</script>

<template>
  <g
    :tabindex="fixed ? undefined : 0"
    role="slider"
    :aria-label="label"
    :aria-valuenow="now"
    :aria-valuetext="text"
    :aria-valuemin="least"
    :aria-valuemax="most"
    class="cursor-ns-resize [touch-action:none]"
    @pointerdown="$emit('grab', $event)"
    @pointermove="$emit('drag', $event)"
    @pointerup="$emit('drop')"
    @pointercancel="$emit('cancel')"
    @keydown="$emit('nudge', $event)"
  >
    <slot />
  </g>
</template>
