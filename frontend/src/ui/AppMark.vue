<template>
  <router-link to="/" class="mark" aria-label="To the wall of tickets">
    <svg viewBox="0 0 32 32" width="32" height="32" aria-hidden="true">
      <g fill="none" stroke-linecap="round" stroke-width="3.2">
        <path stroke="var(--ink)" d="M7 6 L15 14 L26 9 M15 14 L7 24" />
        <path stroke="var(--madder)" stroke-dasharray="4.6 4.6" d="M5 28 H28" />
      </g>
    </svg>
  </router-link>
</template>

<style scoped>
.mark {
  display: inline-grid;
  place-items: center;
  width: 44px;
  height: 44px;
  margin: -6px;
}
</style>
