import type { InjectionKey } from "vue";
import type { Finding } from "@/api/types";

/** Opens the dialog in which a person writes down why they go on over a Stop. */
export const OVERRULE: InjectionKey<(finding: Finding) => void> = Symbol("overrule");
