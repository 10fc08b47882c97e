import { PiniaColada } from "@pinia/colada";
import { createPinia } from "pinia";
import { createApp } from "vue";
import { createRouter, createWebHistory } from "vue-router";
import App from "./shell/App.vue";
import { SCREENS } from "./shell/stations";
import "./styles/main.css";

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", component: () => import("./garage/GarageView.vue"), meta: { title: "Garage" } },
    { path: "/new/:step?", component: () => import("./garage/NewBuildView.vue"), meta: { title: "New build" } },
    {
      path: "/b/:id",
      component: () => import("./shell/BuildShell.vue"),
      children: [
        { path: "", redirect: (to) => `${to.path.replace(/\/$/, "")}/engine` },
        ...SCREENS.map((s) => ({ path: `${s.key}/:bench?`, component: s.view, meta: { station: s.key } })),
        { path: "guesses", component: () => import("./shell/GuessesView.vue"), meta: { title: "What rests on guesses", stages: [] } },
        { path: "revisions", component: () => import("./shell/RevisionsView.vue"), meta: { title: "Revisions" } },
      ],
    },
    { path: "/:rest(.*)*", component: () => import("./shell/LostView.vue"), meta: { title: "Not here" } },
  ],
});
router.afterEach((to) => {
  if (to.meta.title && !to.params.id) document.title = `${String(to.meta.title)} · Uphill Spark`;
});
createApp(App).use(createPinia()).use(PiniaColada).use(router).mount("#app");
