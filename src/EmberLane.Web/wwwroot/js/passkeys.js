// Passkeys: the browser alone talks to what holds them. A form with data-passkey fetches what is to be signed, has it signed, and is sent.

const able = "PublicKeyCredential" in window && "parseCreationOptionsFromJSON" in PublicKeyCredential;

async function signed(form) {
  const asked = await fetch(form.dataset.options, {
    method: "POST",
    headers: { RequestVerificationToken: form.elements.__RequestVerificationToken.value },
  });
  if (!asked.ok) {
    throw new Error(await asked.text());
  }
  const options = await asked.json();
  const credential =
    form.dataset.passkey === "create"
      ? await navigator.credentials.create({ publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(options) })
      : await navigator.credentials.get({ publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(options) });
  return JSON.stringify(credential);
}

document.querySelectorAll("form[data-passkey]").forEach((form) => {
  form.hidden = !able;
  form.addEventListener("submit", async (event) => {
    if (form.elements.credential.value) {
      return;
    }
    event.preventDefault();
    const trouble = form.querySelector("[role=alert]");
    trouble.hidden = true;
    try {
      form.elements.credential.value = await signed(form);
      form.submit();
    } catch (error) {
      trouble.textContent =
        error.name === "NotAllowedError"
          ? "It was not confirmed. Try again, or go on by password."
          : error.name === "SecurityError"
            ? "Browsers make passkeys for names only, over https or as localhost; not for an address of numbers."
            : `The passkey can not be used: ${error.message}`;
      trouble.hidden = false;
    }
  });
});
