<script setup lang="ts">
import { TRIGGER_NAMES, TRIGGERS } from '@rounds/core/certification';
import { Descriptions, DescriptionsItem } from 'ant-design-vue';
import { computed } from 'vue';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';
import { useRulesInForce } from './queries';
import { effectWords, FIGURES } from './ruleWords';

/** The organisation's certification rules, to read. */
const inForce = useRulesInForce();
const rules = computed(() => inForce.data.value?.rules ?? null);
</script>

<template>
  <StateBox
    :loading="!rules"
    :error="rules ? undefined : inForce.error.value"
    what="the rules"
    @retry="inForce.refetch()"
  >
    <section v-if="rules" class="sheet pad stack" aria-label="Certification rules">
      <h2>
        The organisation's rules
        <span class="quiet">in force since {{ day(inForce.data.value!.effectiveFrom) }}</span>
      </h2>
      <Descriptions :column="{ xs: 1, sm: 1, md: 2 }" bordered size="small">
        <DescriptionsItem v-for="each in FIGURES" :key="each.key" :label="each.name"
          >{{ rules[each.key] }} {{ each.unit }}</DescriptionsItem
        >
        <DescriptionsItem label="Minimum age">{{
          rules.minimumAge === null ? 'none' : `${rules.minimumAge} years`
        }}</DescriptionsItem>
        <DescriptionsItem label="Medical holds">{{
          rules.medicalMonths === null ? 'none needed' : `${rules.medicalMonths} months`
        }}</DescriptionsItem>
        <DescriptionsItem label="Evaluators calibrated">{{
          rules.calibrationMonths === null ? 'not asked for' : `every ${rules.calibrationMonths} months`
        }}</DescriptionsItem>
        <DescriptionsItem label="Needed beside the practical">{{
          [
            rules.requireLesson ? 'a lesson' : '',
            rules.requireTheory ? 'theory' : '',
            rules.requireDrill ? 'the drill standard' : '',
          ]
            .filter(Boolean)
            .join(' and ') || 'nothing'
        }}</DescriptionsItem>
        <DescriptionsItem label="Hours to go on operating">{{
          rules.recency ? `${rules.recency.hours} within ${rules.recency.months} months` : 'none'
        }}</DescriptionsItem>
      </Descriptions>
      <h3>What each event does</h3>
      <Descriptions :column="{ xs: 1, sm: 1, md: 2 }" bordered size="small">
        <DescriptionsItem v-for="trigger in TRIGGERS" :key="trigger" :label="TRIGGER_NAMES[trigger]">{{
          effectWords(rules, trigger)
        }}</DescriptionsItem>
      </Descriptions>
      <p class="quiet">
        The administrator sets them; a site or class may have its own. The employer's rules and local law
        decide these figures.
      </p>
    </section>
  </StateBox>
</template>
