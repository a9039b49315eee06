using Walkdown.Core.Measures;

namespace Walkdown.Core.Catalogues;

/// <summary>What a model's template says of the row at hand, in sentences; and what it does not say.</summary>
public static class ModelSheet
{
    /// <summary>The sentences of a topic.</summary>
    /// <param name="model">The template; null: there is none.</param>
    /// <param name="topic">One of <see cref="DeviceModel.Topics"/>.</param>
    /// <param name="part">Of one part of the device alone, such as its cover; empty: of all.</param>
    public static IEnumerable<Message> Of(DeviceModel? model, string topic, string part)
    {
        if (model is null)
            return [new("sheet.no-model")];
        var said = topic switch
        {
            "lens" => Lens(model),
            "pixels" when model.Pixels is { } p => [new("sheet.pixels", Number(p.Wide), Number(p.High))],
            "seals" when !model.Seals.IsEmpty => [new("sheet.seals", string.Join(", ", model.Seals.Select(s => "@interface." + s)))],
            "fasteners" => Fasteners(model, part),
            "reset" => Reset(model),
            "stops" when model.Stops is { } s => [new("sheet.stops", Number(s.PanLeast), Number(s.PanGreatest))],
            "cards" when model.Cards is { } c =>
            [
                new("sheet.cards", Number(c.Slots), Message.Said(c.Class)),
                .. Some(c.MostGigabytes, most => new("sheet.cards.most", Number(most))),
                .. c.Slots > 1 ? new Message[] { new("sheet.cards.together", "@cards." + (c.Together ?? "unknown")) } : [],
            ],
            "box" => model.BoxCurve.Select(b => new Message("sheet.box", Number(b.AmbientC), Number(b.Minutes))),
            _ when topic.StartsWith("setting-", StringComparison.Ordinal) => Surfaces(model, topic["setting-".Length..]),
            _ => [],
        };
        var lines = said.ToImmutableArray();
        return lines.IsEmpty ? [new("sheet.unknown", "@sheet.topic." + topic)] : lines;
    }

    private static IEnumerable<Message> Lens(DeviceModel model)
    {
        if (model.Lens is not { } lens)
            yield break;
        yield return lens.LeastMm.Equals(lens.MostMm)
            ? new("sheet.lens.one", Number(lens.LeastMm), "@lens." + Codes.Of(lens.Set))
            : new("sheet.lens", Number(lens.LeastMm), Number(lens.MostMm), "@lens." + Codes.Of(lens.Set));
        if (lens.WidestDeg is { } wide)
            yield return lens.NarrowestDeg is { } narrow && !narrow.Equals(wide)
                ? new("sheet.lens.width", Number(narrow), Number(wide))
                : new("sheet.lens.width.one", Number(wide));
    }

    private static IEnumerable<Message> Fasteners(DeviceModel model, string part) =>
        model
            .Fasteners.Where(f => part.Length == 0 || f.Part == part)
            .Select(f => new Message(
                f.Captive ? "sheet.fasteners.captive" : "sheet.fasteners.loose",
                "@fastener." + f.Part,
                Number(f.Count),
                Message.Said(f.Drive)
            ));

    private static IEnumerable<Message> Reset(DeviceModel model)
    {
        if (model.Reset is not { } reset)
            yield break;
        yield return reset.MostSeconds is { } most
            ? new("sheet.reset", Number(reset.LeastSeconds), Number(most), Message.Said(reset.At))
            : new("sheet.reset.least", Number(reset.LeastSeconds), Message.Said(reset.At));
        if (reset.Light is { } id && model.Lights.FirstOrDefault(l => l.Id == id) is { } light)
            yield return new("sheet.reset.light", "@light." + Codes.Of(light.State));
    }

    private static IEnumerable<Message> Surfaces(DeviceModel model, string setting) =>
        model.Surfaces.Where(s => s.Setting == setting).Select(s => s.Told()).OfType<Message>();

    private static IEnumerable<Message> Some(int? value, Func<int, Message> say) => value is { } some ? [say(some)] : [];

    private static string Number(double value) => Message.Number(value);
}
