// The answers that a new build is made from: kept while the tab lives, so that a reload or a step back loses none.
import { useQuery } from "@pinia/colada";
import { useSessionStorage } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { useRouter } from "vue-router";
import { api, ApiError } from "@/api/client";
import { newId } from "@/stores/queue";
import { useSettings } from "@/stores/settings";

export type Answer = string | number | number[];

export function useAnswers() {
  const router = useRouter();
  const settings = useSettings();
  const { data } = useQuery({ key: ["questions"], query: api.questions, staleTime: Infinity });
  const answers = useSessionStorage<Record<string, Answer>>("uphill-spark.answers", {});
  /** Sent twice, because no answer came, it is one build; changed answers are another. */
  const id = useSessionStorage("uphill-spark.answers-id", newId());
  const problems = ref<Record<string, string>>({});
  const trouble = ref("");
  const busy = ref(false);
  watch(answers, () => (id.value = newId()), { deep: true });
  const steps = computed(() => data.value?.steps ?? []);
  const given = (key: string) => answers.value[key];
  const isGiven = (key: string) => given(key) !== undefined && String(given(key)).trim() !== "";
  function give(key: string, answer: Answer | undefined): void {
    const rest = Object.fromEntries(Object.entries(answers.value).filter(([k]) => k !== key));
    // Another number of cylinders, or another arrangement, fires in another order.
    if (key === "arrangement" || key === "cylinders") delete rest.firing_order;
    if (key === "arrangement" && !orders.value.some((o) => o.arrangement === answer && o.order.length === rest.cylinders))
      delete rest.cylinders;
    answers.value = answer === undefined ? rest : { ...rest, [key]: answer };
    delete problems.value[key];
  }
  /** Usual orders of the arrangement; in line where none is said. */
  const orders = computed(() => data.value?.orders ?? []);
  const arranged = computed(() => orders.value.filter((o) => o.arrangement === (given("arrangement") ?? "inline")));
  const counts = computed(() => [...new Set(arranged.value.map((o) => o.order.length))].sort((a, b) => a - b));
  const fitting = computed(() => arranged.value.filter((o) => o.order.length === given("cylinders")));
  /** What must be answered, and is not, of a step. */
  const open = (key: string) => (steps.value.find((s) => s.key === key)?.questions ?? []).filter((q) => !q.may_skip && !isGiven(q.key));

  async function create(): Promise<void> {
    busy.value = true;
    problems.value = {};
    trouble.value = "";
    try {
      const state = await api.create(Object.fromEntries(Object.entries(answers.value).filter(([k]) => isGiven(k))), settings.who, id.value);
      answers.value = {};
      await router.push(`/b/${state.id}/engine`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      for (const p of error.body.problems ?? [])
        problems.value[p.at.split("/")[1]!] = p.wants.charAt(0).toUpperCase() + p.wants.slice(1) + ".";
      trouble.value = error.away ? "The store does not answer. Your answers stay here; try again in a moment." : error.message;
      const first = steps.value.find((s) => s.questions.some((q) => problems.value[q.key]));
      if (first) await router.push(`/new/${first.key}`);
    } finally {
      busy.value = false;
    }
  }
  return { steps, given, isGiven, give, counts, fitting, open, create, problems, trouble, busy };
}
