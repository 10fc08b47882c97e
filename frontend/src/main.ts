import { createPinia } from "pinia";
import { createApp } from "vue";
import { createRouter, createWebHistory } from "vue-router";
import App from "./shell/App.vue";
import { STATIONS } from "./shell/stations";
import "./styles/main.css";

const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: "/", component: () => import("./garage/GarageView.vue"), meta: { title: "Garage" } },
    { path: "/new", component: () => import("./garage/NewBuildView.vue"), meta: { title: "New build" } },
    {
      path: "/b/:id",
      component: () => import("./shell/BuildShell.vue"),
      children: [
        { path: "", redirect: (to) => `${to.path.replace(/\/$/, "")}/engine` },
        ...STATIONS.map((s) => ({ path: s.key, component: s.view, meta: { title: s.title, station: s.key } })),
        { path: "revisions", component: () => import("./shell/RevisionsView.vue"), meta: { title: "Revisions" } },
      ],
    },
    { path: "/:rest(.*)*", component: () => import("./shell/LostView.vue"), meta: { title: "Not here" } },
  ],
});
router.afterEach((to) => {
  document.title = `${String(to.meta.title ?? "")} · Uphill Spark`.replace(/^ · /, "");
});
createApp(App).use(createPinia()).use(router).mount("#app");
