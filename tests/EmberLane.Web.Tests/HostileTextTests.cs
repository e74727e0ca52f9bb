using EmberLane.Core.Import;
using EmberLane.Core.Media;
using EmberLane.Engines;
using EmberLane.Running;

namespace EmberLane.Web.Tests;

/// <summary>Texts that ask for far more time or memory than they should get: each is read, or refused with a sentence.</summary>
public sealed class HostileTextTests
{
    public static TheoryData<string> Names => [.. HostileFiles.Texts().Select(t => t.Name)];

    [Theory]
    [MemberData(nameof(Names))]
    public async Task A_hostile_text_is_read_or_refused_with_a_sentence(string name)
    {
        var content = HostileFiles.Texts().Single(t => t.Name == name).Content();
        // No measure of speed: what grows with the square takes many minutes here.
        using var limit = new CancellationTokenSource(Patience.Of(60));
        var refused = await Task.Run(() => Reason(name, content, limit.Token), CancellationToken.None).WaitAsync(limit.Token);
        Assert.True(refused is null || (refused.EndsWith('.') && refused.Length < 300), refused);
    }

    [Theory]
    [InlineData("half.json", "half of a letter")]
    [InlineData("digits.srt", "Line 2")]
    [InlineData("commas.csv", "thousands of columns")]
    [InlineData("nested.docx", "nested more than 64 deep")]
    [InlineData("bomb.docx", "unpacks to far more")]
    public void What_is_refused_says_why(string name, string reason) =>
        Assert.Contains(
            reason,
            Reason(name, HostileFiles.Texts().Single(t => t.Name == name).Content(), CancellationToken.None),
            StringComparison.Ordinal
        );

    [Fact]
    public void A_reader_stops_between_two_lines_when_it_is_cancelled()
    {
        using var cancelled = new CancellationTokenSource();
        cancelled.Cancel();
        foreach (
            var (name, text) in new[]
            {
                ("a.srt", "1\n00:00:01,000 --> 00:00:02,000\nwords\n"),
                ("a.vtt", "WEBVTT\n\n00:01.000 --> 00:02.000\nwords\n"),
                ("a.txt", "words\n"),
                ("a.csv", "words\nsaid\n"),
            }
        )
        {
            Assert.Throws<OperationCanceledException>(() => TextFiles.Read(name, text, cancelled.Token));
        }
        Assert.Throws<OperationCanceledException>(() => XmlDepth.IsShallow(new StringReader("<a/>"), cancelled.Token));
    }

    [Fact]
    public void Depth_is_counted_in_elements_and_what_a_word_processor_writes_is_shallow()
    {
        static string Nested(int depth) => string.Concat(Enumerable.Repeat("<a>", depth)) + string.Concat(Enumerable.Repeat("</a>", depth));
        Assert.True(XmlDepth.IsShallow(new StringReader(Nested(XmlDepth.Most))));
        Assert.False(XmlDepth.IsShallow(new StringReader(Nested(XmlDepth.Most + 2))));
        Assert.Equal("deep", WordDocument.ReadText(new MemoryStream(HostileFiles.WordTables(5))).Trim());
        Assert.Equal(RecorderNotes.None, RecorderNotes.Read(Nested(1_000)));
    }

    private static string? Reason(string name, byte[] content, CancellationToken cancel)
    {
        try
        {
            _ = name.EndsWith(".docx", StringComparison.Ordinal)
                ? TextFiles.Read("a.txt", WordDocument.ReadText(new MemoryStream(content), cancel), cancel)
                : TextFiles.Read(name, content, cancel);
            return null;
        }
        catch (FormatException refused)
        {
            return refused.Message;
        }
    }
}
