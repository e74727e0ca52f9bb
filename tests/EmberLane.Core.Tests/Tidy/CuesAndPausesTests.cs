using System.Text.Json;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class CuesAndPausesTests
{
    private static string[] Cues(params string[] lines)
    {
        var talk = Telling.Of(lines);
        return [.. SpokenCues.Of(talk, SpokenCues.English).Select(c => $"{c.Cue.Phrase}: {talk.Said(c.First, c.Last)}")];
    }

    [Fact]
    public void Cues_are_found_as_they_are_written_and_nearly_so_where_they_begin_what_is_said()
    {
        Assert.Equal(["use that: Use that"], Cues("A: It was cold. Use that for the opening."));
        Assert.Equal(["that is the opening: That's the opening."], Cues("A: That's the opening."));
        Assert.Equal(["cut that out: cut that out"], Cues("A: Please um cut that out of it."));
        Assert.Equal(["cut that out: Cat that out."], Cues("A: Cat that out."));
        Assert.Empty(Cues("A: Used that. Lose that."));
        Assert.Equal(["do not use that: do not yuse that."], Cues("A: Well, do not yuse that."));
        Assert.Equal(["scene one take one: Scene four take 12."], Cues("A: Scene four take 12. Go."));
        Assert.Empty(Cues("A: We use that rope on Sundays, and I would never cut that out of wood."));
    }

    [Fact]
    public void Of_two_cues_that_fit_the_same_words_the_longer_one_is_found() =>
        Assert.Equal(
            ["here we go again: Here we go again."],
            [
                .. SpokenCues
                    .Of(
                        Telling.Of("A: Here we go again."),
                        [new("here we", CueUse.KeepsAfter), new("here we go again", CueUse.BeginsPart), new(" … ", CueUse.KeepsAfter)]
                    )
                    .Select(c => $"{c.Cue.Phrase}: {Telling.Of("A: Here we go again.").Said(c.First, c.Last)}"),
            ]
        );

    private static MediaTime Ms(long at) => MediaTime.FromMilliseconds(at);

    // Two words with two seconds between them, 1.0 to 3.0 s.
    private static readonly Talk Two = new([new("late", Ms(500), Ms(1_000), 0), new("again", Ms(3_000), Ms(3_500), 1)]);

    [Fact]
    public void By_the_words_alone_a_pause_is_where_nobody_has_a_word()
    {
        Assert.Equal([new TalkPause(Ms(1_000), Ms(3_000))], TalkPauses.Of(Two, Ms(400)));
        Assert.Empty(TalkPauses.Of(Two, Ms(2_001)));
        Talk over = new([new("long", Ms(0), Ms(9_000), 0), new("in", Ms(1_000), Ms(1_200), 1), new("end", Ms(9_600), Ms(9_900), 1)]);
        Assert.Equal([new TalkPause(Ms(9_000), Ms(9_600))], TalkPauses.Of(over, Ms(400)));
        Assert.Empty(TalkPauses.Of(new Talk([]), Ms(400)));
    }

    [Fact]
    public void It_begins_and_ends_between_what_the_words_and_what_the_sound_say()
    {
        var chances = new float[500];
        Assert.Equal([new TalkPause(Ms(1_030), Ms(2_970))], TalkPauses.Of(Two, [StepRange.Of(106, 294)], chances, default, Ms(400)));
        // A sound that begins a second later on the words' clock.
        Assert.Equal([new TalkPause(Ms(1_030), Ms(2_970))], TalkPauses.Of(Two, [StepRange.Of(6, 194)], chances, Ms(1_000), Ms(400)));
        // A noise between two quiet stretches belongs to it, speech does not.
        Assert.Equal(
            [new TalkPause(Ms(1_000), Ms(3_000))],
            TalkPauses.Of(Two, [StepRange.Of(100, 180), StepRange.Of(220, 300)], chances, default, Ms(400))
        );
        Array.Fill(chances, 0.9f, 180, 40);
        Assert.Equal(
            [new TalkPause(Ms(2_200), Ms(3_000))],
            TalkPauses.Of(Two, [StepRange.Of(100, 170), StepRange.Of(220, 300)], chances, default, Ms(400))
        );
    }

    [Fact]
    public void Where_word_and_sound_are_far_apart_the_network_decides_but_never_beyond_the_middle_of_a_word()
    {
        var chances = new float[500];
        // Quiet all along, words and all: half of each stays.
        Assert.Equal([new TalkPause(Ms(750), Ms(3_250))], TalkPauses.Of(Two, [StepRange.Of(0, 500)], chances, default, Ms(400)));
        // Somebody still speaks for half a second after the word's time is over.
        Array.Fill(chances, 0.9f, 0, 150);
        Assert.Equal([new TalkPause(Ms(1_500), Ms(3_000))], TalkPauses.Of(Two, [StepRange.Of(150, 300)], chances, default, Ms(400)));
        // Loud there, but no speech.
        Assert.Equal([new TalkPause(Ms(1_000), Ms(3_000))], TalkPauses.Of(Two, [StepRange.Of(150, 300)], new float[500], default, Ms(400)));
    }

    [Fact]
    public void A_noise_without_a_word_is_a_pause_and_speech_that_nobody_understood_is_none()
    {
        var chances = new float[500];
        Assert.Equal([new TalkPause(Ms(1_000), Ms(3_000))], TalkPauses.Of(Two, [], chances, default, Ms(400)));
        // A sound that ends before it says nothing of it.
        Assert.Equal([new TalkPause(Ms(1_000), Ms(3_000))], TalkPauses.Of(Two, [], chances.AsSpan(0, 50), default, Ms(400)));
        Array.Fill(chances, 0.9f, 120, 100);
        Assert.Empty(TalkPauses.Of(Two, [], chances, default, Ms(400)));
    }

    [Fact]
    public void A_word_that_runs_into_its_neighbour_would_clip_it_and_one_that_stands_apart_would_not()
    {
        Talk talk = new([new("the", Ms(0), Ms(400), 0), new("um", Ms(400), Ms(800), 0), new("boat", Ms(900), Ms(1_300), 0)]);
        Assert.True(ClippedEdges.Of(talk, 1, 1));
        Assert.False(ClippedEdges.Of(talk, 2, 2));
        var energy = new float[200];
        Array.Fill(energy, 1_000);
        Assert.True(ClippedEdges.Of(talk, 1, 1, energy, default));
        // It falls at both edges; louder or softer all over changes nothing.
        foreach (var edge in new[] { 40, 80 })
        {
            energy[edge] = 20;
        }
        Assert.False(ClippedEdges.Of(talk, 1, 1, energy, default));
        Assert.False(ClippedEdges.Of(talk, 1, 1, [.. energy.Select(e => e / 100)], default));
        Assert.True(ClippedEdges.Of(talk, 1, 1, energy, Ms(200)));
        Assert.True(ClippedEdges.Of(talk, 1, 1, energy, Ms(600)));
        // Where the sound does not reach, the words tell.
        Assert.True(ClippedEdges.Of(talk, 1, 1, [], default));
        Assert.False(ClippedEdges.Of(talk, 2, 2, energy.AsSpan(0, 60), default));
    }

    [Fact]
    public void All_of_it_is_written_as_json_with_the_places_of_the_file()
    {
        var talk = Telling.Of("A: Um, the ferry was late today. Um, the ferry was late today. / Use that.");
        var found = TidyFindings.Of(
            talk,
            null,
            Ms(400),
            HesitationWords.Of("en", []),
            SpokenCues.English,
            ScriptText.Read("The ferry was late today.\nNobody came.")
        );
        using var json = JsonDocument.Parse(TidyJson.Write(talk, found, p => 100 + p));
        var root = json.RootElement;
        Assert.Equal(["pauses", "hesitations", "retakes", "cues", "script"], root.EnumerateObject().Select(p => p.Name));
        Assert.Equal("""{"in":4.1,"out":5.1}""", Plain(root.GetProperty("pauses")[0]));
        Assert.Equal(
            """{"kind":"filled","first":100,"last":100,"in":0.5,"out":0.8,"clips":true}""",
            Plain(root.GetProperty("hesitations")[0])
        );
        Assert.Equal(
            """{"attempts":[{"first":101,"last":105,"in":0.8,"out":2.3,"whole":true},"""
                + """{"first":107,"last":111,"in":2.6,"out":4.1,"whole":true}],"best":1,"reason":"the last, and whole"}""",
            Plain(root.GetProperty("retakes")[0])
        );
        Assert.Equal(
            """{"cue":"use that","does":"keeps what is before it","first":112,"last":113,"in":5.1,"out":5.7,"score":1}""",
            Plain(root.GetProperty("cues")[0])
        );
        Assert.Equal(2, root.GetProperty("script")[0].GetProperty("takes").GetArrayLength());
        Assert.Equal("""{"line":2,"takes":[],"best":null}""", Plain(root.GetProperty("script")[1]));

        static string Plain(JsonElement element) => JsonSerializer.Serialize(element);
    }
}
