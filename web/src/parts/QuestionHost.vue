<script setup lang="ts">
import { useQuestions } from './askFirst';

/** Stands once inside the provider of the theme: questions come up here. */
const Holder = useQuestions();
</script>

<template><Holder /></template>
