<script setup lang="ts">
/** The hatchings of strata, water and what was read; each means one thing. */
</script>

<template>
  <defs>
    <pattern id="diagonal" width="9" height="9" patternUnits="userSpaceOnUse">
      <rect width="9" height="9" fill="var(--lampwash)" />
      <path d="M-2 11 11-2M-2 2 2-2M7 11l4-4" stroke="var(--lampfill)" stroke-width="1.6" />
    </pattern>
    <pattern id="dots" width="9" height="9" patternUnits="userSpaceOnUse">
      <rect width="9" height="9" fill="var(--sheet)" />
      <circle cx="4" cy="4" r="1.3" fill="var(--moss)" />
    </pattern>
    <pattern id="cross" width="10" height="10" patternUnits="userSpaceOnUse">
      <rect width="10" height="10" fill="var(--sheet)" />
      <path d="M3 5h4M5 3v4" stroke="var(--river)" stroke-width="1.2" />
    </pattern>
    <pattern id="level" width="10" height="7" patternUnits="userSpaceOnUse">
      <rect width="10" height="7" fill="var(--sheet)" />
      <path d="M0 4h10" stroke="var(--plum)" stroke-width="1.2" />
    </pattern>
    <pattern id="water" width="16" height="9" patternUnits="userSpaceOnUse">
      <rect width="16" height="9" fill="var(--deep)" />
      <path d="M0 5q4-3 8 0t8 0" fill="none" stroke="#5d7482" stroke-width="0.9" />
    </pattern>
    <pattern id="read" width="8" height="8" patternUnits="userSpaceOnUse">
      <rect width="8" height="8" fill="var(--sheet)" />
      <path d="M0 8 8 0" stroke="var(--moss)" stroke-width="1" />
    </pattern>
  </defs>
</template>
