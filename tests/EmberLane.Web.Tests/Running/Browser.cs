using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace EmberLane.Running;

/// <summary>Debian's Chromium without a monitor.</summary>
public sealed class Browser : IDisposable
{
    private readonly string profile = Directory.CreateTempSubdirectory("ember-browser").FullName;
    private readonly ChromeDriverService service;

    public Browser()
    {
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--disable-dev-shm-usage",
            "--autoplay-policy=no-user-gesture-required",
            "--mute-audio",
            "--window-size=1280,939",
            "--force-device-scale-factor=1",
            "--hide-scrollbars",
            $"--user-data-dir={profile}"
        );
        options.SetLoggingPreference(LogType.Browser, LogLevel.Severe);
        service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        Driver = new ChromeDriver(service, options, Patience.Of(60));
    }

    public ChromeDriver Driver { get; }

    /// <summary>
    /// Cuts the line between what the pages' scripts send and the server, through reloads too, or mends it. The browser's own offline mode
    /// does not hold where a page is kept by a worker.
    /// </summary>
    public void Line(bool cut)
    {
        Driver.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new Dictionary<string, object?> { ["source"] = LineScript });
        Run<object?>(LineScript + "localStorage.setItem('line-cut', arguments[0] ? 'yes' : ''); return null", cut);
    }

    private const string LineScript = """
        if (!window.line) {
          window.line = window.fetch;
          window.fetch = (...asked) =>
            localStorage.getItem("line-cut") ? Promise.reject(new TypeError("no line")) : window.line(...asked);
        }
        """;

    public void Open(string address) => Driver.Navigate().GoToUrl(address);

    public IWebElement Find(string css) => Until(() => Driver.FindElement(By.CssSelector(css)), "an element " + css);

    /// <summary>All elements that fit now; what is asked of them may find them replaced (see <see cref="Texts"/>).</summary>
    public IReadOnlyList<IWebElement> All(string css) => Driver.FindElements(By.CssSelector(css));

    public string Text(string css) => Until(() => Find(css).Text, "the text of " + css);

    /// <summary>The texts of all elements that fit, read together.</summary>
    public IReadOnlyList<string> Texts(string css) => Until(() => All(css).Select(e => e.Text).ToList(), "the texts of " + css);

    /// <summary>Clicks what can be clicked, waiting for it as a person would.</summary>
    public void Click(string css) =>
        Until(
            () =>
            {
                Driver.FindElement(By.CssSelector(css)).Click();
                return true;
            },
            "a click on " + css
        );

    /// <summary>Types into what can be typed in.</summary>
    public void Type(string css, string text) =>
        Until(
            () =>
            {
                Driver.FindElement(By.CssSelector(css)).SendKeys(text);
                return true;
            },
            $"typing into {css}"
        );

    /// <summary>Empties a field.</summary>
    public void Empty(string css) =>
        Until(
            () =>
            {
                Driver.FindElement(By.CssSelector(css)).Clear();
                return true;
            },
            $"emptying {css}"
        );

    public void Press(params string[] keys)
    {
        foreach (var key in keys)
        {
            new Actions(Driver).SendKeys(key).Perform();
        }
    }

    public void PressWithShift(string key) => new Actions(Driver).KeyDown(Keys.Shift).SendKeys(key).KeyUp(Keys.Shift).Perform();

    public T Run<T>(string script, params object[] arguments) => (T)Driver.ExecuteScript(script, arguments)!;

    /// <summary>
    /// Asks until the answer is neither null nor false; throws <see cref="TimeoutException"/> that says what was waited for. An element
    /// that was replaced meanwhile is looked up again.
    /// </summary>
    public static T Until<T>(Func<T?> ask, string what, int seconds = 20)
    {
        var limit = Patience.Of(seconds);
        var end = DateTime.UtcNow + limit;
        Exception? last = null;
        do
        {
            try
            {
                if (ask() is { } answer and not false)
                {
                    return answer;
                }
            }
            catch (Exception e)
                when (e
                        is NoSuchElementException
                            or StaleElementReferenceException
                            or ElementNotInteractableException
                            or ElementClickInterceptedException
                )
            {
                last = e;
            }
            Thread.Sleep(40);
        } while (DateTime.UtcNow < end);
        throw new TimeoutException($"Waited {limit.TotalSeconds:0} s for {what}.", last);
    }

    public void UntilText(string css, string part)
    {
        var said = "";
        try
        {
            Until(() => (said = Driver.FindElement(By.CssSelector(css)).Text).Contains(part, StringComparison.Ordinal), css);
        }
        catch (TimeoutException late)
        {
            throw new TimeoutException($"“{part}” did not come in {css}, which said last: “{said}”.", late);
        }
    }

    /// <summary>Chooses an option of a list by what it says.</summary>
    public void Choose(string css, string option) =>
        Until(
            () =>
            {
                Find(css).FindElements(By.TagName("option")).Single(o => o.Text == option).Click();
                return true;
            },
            $"{option} in {css}"
        );

    public void Picture(string path) => ((ITakesScreenshot)Driver).GetScreenshot().SaveAsFile(path);

    public void Dispose()
    {
        Driver.Quit();
        service.Dispose();
        Directory.Delete(profile, recursive: true);
    }
}
