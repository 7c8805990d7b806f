<template>
  <section class="sheet p-8">
    <h1 class="text-xl font-bold">There is nothing at this address</h1>
    <p class="mt-2">The job may have been removed, or the address was typed by hand.</p>
    <RouterLink to="/jobs" class="next mt-4 inline-block">To the jobs</RouterLink>
  </section>
</template>
