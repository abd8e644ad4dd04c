<template>
  <div class="screen stack">
    <h1>There is nothing at this address</h1>
    <p>The link may be old, or the record was never here.</p>
    <RouterLink to="/">Go to Today</RouterLink>
  </div>
</template>
