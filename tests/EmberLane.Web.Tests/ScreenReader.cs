using EmberLane.Running;

namespace EmberLane.Web.Tests;

/// <summary>What is wrong with a page for those who hear it or use keys alone, as axe finds it by WCAG 2.2 AA.</summary>
internal static class ScreenReader
{
    private static readonly string Axe = ReadAxe();

    private static string ReadAxe()
    {
        using var reader = new StreamReader(typeof(ScreenReader).Assembly.GetManifestResourceStream("axe.js")!);
        return reader.ReadToEnd();
    }

    /// <summary>What is serious or critical on the page that is open; empty when nothing is.</summary>
    public static string Trouble(Browser browser)
    {
        browser.Run<object?>(Axe + "; return null");
        return (string)
            browser.Driver.ExecuteAsyncScript(
                "const done = arguments[0]; axe.run({ runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] }).then(r => "
                    + "done(r.violations.filter(v => ['serious', 'critical'].includes(v.impact)).map(v => v.id + ': ' + "
                    + "v.nodes.slice(0, 3).map(n => n.target + ' ' + n.failureSummary).join(' / ')).join('\\n')), e => "
                    + "done(String(e)));"
            )!;
    }
}
