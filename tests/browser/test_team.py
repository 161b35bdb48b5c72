"""Who belongs to the team, on screen: invited by a link, joined, shut out; one's own password and sign-ins."""

from playwright.sync_api import expect

from tests.support.browser import BrowserTestCase

NEW = "seven wet gravel ducks"


class Team(BrowserTestCase):
    def test_a_person_is_invited_joins_and_is_shut_out(self) -> None:
        ines = self.open(path="/team")
        ines.get_by_role("button", name="Add a person").click()
        ines.get_by_label("Name", exact=True).fill("Nia Cope")
        ines.get_by_label("E-mail address").fill("nowhere")
        ines.get_by_role("button", name="Make the link").click()
        expect(ines.get_by_text("That is no e-mail address.")).to_be_visible()
        ines.get_by_label("E-mail address").fill("nia@hollinbank.example")
        ines.get_by_role("button", name="Make the link").click()
        link = ines.get_by_label("Link for Nia Cope").input_value()
        self.assertTrue(link.startswith(f"{self.address}/join#"))
        row = ines.get_by_role("row", name="Nia Cope")
        expect(row).to_contain_text("invited")
        self.assert_accessible(ines)

        context = self.browser.new_context()
        self.addCleanup(context.close)
        nia = context.new_page()
        nia.goto(link)
        nia.get_by_label("Password", exact=True).fill("nia cope nia")
        nia.get_by_role("button", name="Join the team").click()
        expect(nia.get_by_text("soon guessed")).to_be_visible()
        nia.get_by_label("Password", exact=True).fill(NEW)
        nia.get_by_role("button", name="Join the team").click()
        expect(nia.get_by_role("heading", name="Garage")).to_be_visible()
        expect(nia.get_by_role("button", name="New car")).to_have_count(0)
        self.assertNotIn("#", nia.url)

        ines.reload()
        row.get_by_label("Role of Nia Cope").select_option("engineer")
        expect(row).to_contain_text("changes the car and books")
        nia.reload()
        expect(nia.get_by_role("button", name="New car")).to_be_visible()
        row.get_by_role("button", name="Shut out").click()
        expect(row).to_contain_text("shut out")
        nia.reload()
        expect(nia.get_by_label("Password", exact=True)).to_be_visible()
        nia.goto(link)
        nia.get_by_label("Password", exact=True).fill(NEW)
        nia.get_by_role("button", name="Join the team").click()
        expect(nia.get_by_text("This link was used")).to_be_visible()

    def test_the_last_owner_stays_one_and_is_told_why(self) -> None:
        ines = self.open(path="/team")
        mark = ines.get_by_label("Ines Halloran is an owner")
        mark.click()
        expect(ines.get_by_text("A team needs an owner who can sign in")).to_be_visible()
        expect(mark).to_be_checked()

    def test_one_s_own_password_and_sign_ins(self) -> None:
        oke, other = self.open("Oke"), self.open("Oke")
        oke.get_by_role("button", name="Oke").click()
        oke.get_by_role("button", name="Your password").or_(
            oke.get_by_role("link", name="Your password")
        ).click()
        expect(oke.get_by_role("table")).to_have_count(0)  # he is no owner
        expect(oke.get_by_role("listitem").filter(has_text="This browser")).to_be_visible()
        oke.get_by_label("Present password").fill("not mine")
        oke.get_by_label("New password").fill(NEW)
        oke.get_by_role("button", name="Change it").click()
        expect(oke.get_by_text("That is not your password.")).to_be_visible()
        oke.get_by_label("Present password").fill("only for the demo")
        oke.get_by_role("button", name="Change it").click()
        expect(oke.get_by_text("Every other sign-in has ended")).to_be_visible()
        expect(oke.get_by_role("button", name="End it")).to_have_count(0)
        other.reload()
        expect(other.get_by_role("heading", name="Or with a password")).to_be_visible()
        oke.reload()
        expect(oke.get_by_role("listitem").filter(has_text="This browser")).to_be_visible()
        self.assert_accessible(oke)

    def test_what_was_done_is_shown_to_an_owner(self) -> None:
        teo = self.open("Teo", path="/cars/1/data")
        field = teo.get_by_label("Wheelbase")
        field.fill("2519")
        field.press("Enter")
        teo.get_by_role("button", name="I measured again").click()
        self.let_it_write(teo)
        ines = self.open(path="/team")
        ines.get_by_role("link", name="What was done").click()
        row = ines.get_by_role("row").filter(has_text="2.519").first
        expect(row).to_contain_text("Teo Brandvold")
        expect(row).to_contain_text("changed a car’s data")
        self.assert_accessible(ines)
        ines.get_by_label("Car", exact=True).select_option(label="Foundry Bell")
        expect(ines.get_by_text("2.519")).to_have_count(0)
