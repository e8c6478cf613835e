<template>
  <aside class="slip">
    <i aria-hidden="true" />
    <div class="inner"><slot /></div>
  </aside>
</template>

<style scoped>
.slip {
  position: relative;
  background: var(--paper);
  border-radius: 3px 3px 10px 10px;
  box-shadow: 0 1px 4px #1f2d2b26;
  margin-top: 6px;
  min-height: 0;
}
.slip > i {
  position: absolute;
  top: -7px;
  left: calc(50% - 27px);
  width: 54px;
  height: 14px;
  background: var(--rail);
  border-radius: 2px;
}
.inner {
  height: 100%;
  overflow-y: auto;
  padding: 20px 18px 18px;
  display: flex;
  flex-direction: column;
  gap: 14px;
}
</style>
