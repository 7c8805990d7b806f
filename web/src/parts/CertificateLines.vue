<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What one wiping came to, and its certificate on paper and as JSON. */
defineProps<{ certificate: Schemas['CertificateView']; large?: boolean }>()
</script>

<template>
  <div>
    <p
      :class="[certificate.wiped ? 'text-moss' : 'text-brick', large ? 'text-xl font-bold' : '']"
      role="status"
    >
      {{ certificate.wiped ? '✓' : '▲' }} {{ certificate.sentence }}
    </p>
    <p class="mt-1 text-[15px]">
      Certificate {{ certificate.id }}:
      <a
        class="text-river underline"
        target="_blank"
        :href="`/api/certificates/${certificate.id}.pdf?paper=A4`"
        >A4</a
      >,
      <a
        class="text-river underline"
        target="_blank"
        :href="`/api/certificates/${certificate.id}.pdf?paper=LETTER`"
        >Letter</a
      >,
      <a class="text-river underline" :href="`/api/certificates/${certificate.id}.json`">JSON</a>
    </p>
    <p class="figure text-sm break-all text-slate">SHA-256 of the JSON {{ certificate.sha256 }}</p>
  </div>
</template>
