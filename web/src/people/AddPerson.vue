<script setup lang="ts">
import { routes } from '@rounds/contract';
import { Button, Modal } from 'ant-design-vue';
import { reactive, ref } from 'vue';
import { call, explain } from '../device/api';

defineProps<{ open: boolean; sites: readonly string[]; teams: readonly string[] }>();
const emit = defineEmits<{ 'update:open': [boolean]; added: [] }>();
const blank = {
  payroll: '',
  givenName: '',
  familyName: '',
  site: '',
  team: '',
  email: '',
  born: '',
  started: '',
};
const person = reactive({ ...blank });
const problem = ref<string | null>(null);
const busy = ref(false);

async function save() {
  busy.value = true;
  problem.value = null;
  try {
    await call(routes.addPerson, {
      body: {
        ...person,
        email: person.email || null,
        born: person.born || null,
        started: person.started || null,
      },
    });
    Object.assign(person, blank);
    emit('update:open', false);
    emit('added');
  } catch (error) {
    problem.value = explain(error).detail;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <Modal
    :open="open"
    title="Add a person"
    :footer="null"
    destroy-on-close
    @cancel="emit('update:open', false)"
  >
    <form class="stack" @submit.prevent="save">
      <div class="row">
        <label class="field grow"
          >Given name <input v-model="person.givenName" class="plain" required maxlength="80" /></label
        ><label class="field grow"
          >Family name <input v-model="person.familyName" class="plain" required maxlength="80"
        /></label>
      </div>
      <label class="field"
        >Payroll number <input v-model="person.payroll" class="plain" required maxlength="40"
      /></label>
      <div class="row">
        <label class="field grow"
          >Site <input v-model="person.site" class="plain" list="sites" required maxlength="80"
        /></label>
        <label class="field grow"
          >Team <input v-model="person.team" class="plain" list="teams" required maxlength="80"
        /></label>
      </div>
      <datalist id="sites"><option v-for="each in sites" :key="each" :value="each" /></datalist>
      <datalist id="teams"><option v-for="each in teams" :key="each" :value="each" /></datalist>
      <label class="field"
        >E-mail (may stay empty) <input v-model="person.email" class="plain" type="email" maxlength="200"
      /></label>
      <div class="row">
        <label class="field grow"
          >Date of birth <input v-model="person.born" class="plain" type="date" /></label
        ><label class="field grow"
          >Start date <input v-model="person.started" class="plain" type="date"
        /></label>
      </div>
      <p v-if="problem" role="alert">
        <strong>{{ problem }}</strong>
      </p>
      <Button type="primary" html-type="submit" :loading="busy">Add</Button>
    </form>
  </Modal>
</template>
