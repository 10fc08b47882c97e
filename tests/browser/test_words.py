"""Words of the field: pressed where they stand, read in a card, put away again; on a telephone the whole bench's in one list. And the telephone's piece of a table."""

import unittest

from playwright.sync_api import expect

from tests.browser.test_every_screen import Screens


class Words(Screens):
    def test_a_word_is_pressed_read_and_put_away(self) -> None:
        page = self.open(f"{self.car('brindle')}/injectors/fired")
        word = page.get_by_role("article", name="Stop: Driver and coil resistance").get_by_role("button", name="ballast", exact=True)
        word.focus()
        page.keyboard.press("Enter")
        card = page.get_by_role("dialog", name="Ballast")
        expect(card).to_contain_text("it has to go")
        self.axe(page, "a word's card")
        page.keyboard.press("Escape")
        expect(card).to_be_hidden()
        expect(word).to_be_focused()
        word.click()
        card.get_by_role("button", name="Close").click()
        expect(card).to_be_hidden()
        page.get_by_text("Words: ").click()
        page.get_by_role("term").filter(has_text="Peak and hold").wait_for()
        self.axe(page, "the words of a bench")

    def test_pressed_as_soon_as_it_can_be(self) -> None:
        """The card's own script comes late: the word cannot be pressed before it is there."""
        page = self.open()
        page.route("**/WordCard*.js", lambda route: (page.wait_for_timeout(2000), route.continue_()))
        page.goto(f"{self.address}{self.car('brindle')}/injectors/fired")
        page.get_by_role("article", name="Stop: Driver and coil resistance").get_by_role("button", name="ballast", exact=True).press(
            "Enter"
        )
        expect(page.get_by_role("dialog", name="Ballast")).to_contain_text("it has to go")

    def test_on_a_telephone(self) -> None:
        page = self.open(f"{self.car('tern')}/tune", width=390, height=844, touch=True)
        near = page.get_by_role("table", name="round the cell that is chosen")
        chosen = near.locator("[aria-current=true]")
        before = chosen.inner_text()
        corner = near.get_by_role("button").first
        told = corner.inner_text()
        self.assertNotEqual(told, before)
        corner.tap()
        expect(chosen).to_have_text(told)
        sizes = near.get_by_role("button").evaluate_all("all => all.map(b => Math.round(b.getBoundingClientRect().height))")
        self.assertEqual((len(sizes), min(sizes)), (25, 44))
        self.axe(page, "a piece of a table")
        page.evaluate("window.scrollTo(0, 2000)")
        page.get_by_role("button", name="To the bench").tap()
        expect(page.locator("h1")).to_be_focused()
        expect(page.get_by_role("button", name="To the bench")).to_have_count(0)


if __name__ == "__main__":
    unittest.main()
