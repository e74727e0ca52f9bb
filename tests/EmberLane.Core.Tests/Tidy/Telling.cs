using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

/// <summary>Talk written as it is read: a line a voice says, “A: words”, with “/” for a pause of a second.</summary>
internal static class Telling
{
    /// <summary>Words of 0.3 s that follow each other at once, with half a second between lines.</summary>
    public static Talk Of(params string[] lines)
    {
        var words = new List<TalkWord>();
        long at = 0;
        foreach (var line in lines)
        {
            var voice = line[0] - 'A';
            at += 500;
            foreach (var text in line[2..].Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                if (text == "/")
                {
                    at += 1000;
                    continue;
                }
                words.Add(new TalkWord(text, MediaTime.FromMilliseconds(at), MediaTime.FromMilliseconds(at + 300), voice));
                at += 300;
            }
        }
        return new Talk(words);
    }

    /// <summary>The words from one place to another, both included.</summary>
    public static string Said(this Talk talk, int first, int last) =>
        string.Join(' ', talk.Words.Skip(first).Take(last - first + 1).Select(w => w.Text));
}
