using System.Text.RegularExpressions;

namespace EmberLane.Web.Rooms;

/// <summary>Limits of one kind, each switched on or off.</summary>
public sealed record LimitGroup(string Name, IReadOnlyList<LimitLink> Links);

/// <summary>A limit: what it says, and the question with it, or without.</summary>
public sealed record LimitLink(string Says, string Question, bool IsOn)
{
    /// <summary>
    /// A limit for a question as it is typed: taken out where it stands there; else put in, in the place of another of its name.
    /// </summary>
    public static LimitLink Of(string typed, string says, string limit)
    {
        var name = limit[..(limit.IndexOf(':', StringComparison.Ordinal) + 1)];
        var of = new Regex($"(?<!\\S){Regex.Escape(name)}(\"[^\"]*\"|\\S+)", RegexOptions.IgnoreCase);
        var isOn = of.Matches(typed).Any(m => m.Value.Equals(limit, StringComparison.OrdinalIgnoreCase));
        var without = string.Join(' ', of.Replace(typed, "").Split(' ', StringSplitOptions.RemoveEmptyEntries));
        return new LimitLink(says, isOn ? without : $"{without} {limit}".Trim(), isOn);
    }
}
