using Walkdown.Core.Aiming;
using Walkdown.Core.Entries;
using Walkdown.Core.Measures;
using Walkdown.Core.Pictures;

namespace Walkdown.Core.Nights;

/// <summary>What a picture in the dark shows, the gravest first.</summary>
public enum NightState
{
    /// <summary>Nothing can be told.</summary>
    Look,

    /// <summary>The camera still sees by day: in colour.</summary>
    Colour,

    /// <summary>Black.</summary>
    Black,

    /// <summary>Light lies over it.</summary>
    Veiled,

    /// <summary>Softer at the target than by day.</summary>
    Soft,

    /// <summary>Noise hides the target.</summary>
    Noise,

    /// <summary>None of these, as far as it could be told.</summary>
    Clear,
}

/// <summary>How sharp the target is in the dark against the same by day, freed of what light does (docs/calculations.md, N): what lies over
/// it and how brightly it is lit changes fine and coarse detail alike, what the lens does changes the fine alone.</summary>
/// <param name="Ratio">Fine to coarse detail now, against the same by day.</param>
/// <param name="Uncertainty">Of that, by noise alone, twice the deviation.</param>
public sealed record NightSharpness(double Ratio, double Uncertainty)
{
    /// <summary>Softer from here: noise reduction of a camera in the dark alone takes a quarter and more.</summary>
    public const double Soft = 0.5;

    /// <summary>Softer than by day; null: too close to tell.</summary>
    public bool? IsSoft =>
        Ratio + Uncertainty < Soft ? true
        : Ratio - Uncertainty >= Soft ? false
        : null;
}

/// <summary>How the target is lit in the dark.</summary>
/// <param name="Light">Its light without what lies over it, against the mean light of the picture.</param>
/// <param name="ContrastToNoise">Deviation of what is seen there against noise of a pixel; null: by day too nothing is there.</param>
public sealed record NightReach(double Light, double? ContrastToNoise)
{
    /// <summary>From here a person there stands out of the noise, and under the second figure not.</summary>
    public const double Seen = 3,
        Unseen = 1.5;

    /// <summary>The target stands out of noise; null: too close to tell, or nothing is there.</summary>
    public bool? IsSeen =>
        ContrastToNoise is not { } contrast ? null
        : contrast >= Seen ? true
        : contrast < Unseen ? false
        : null;
}

/// <summary>What a picture says of a camera in the dark.</summary>
/// <param name="State">The gravest that is known.</param>
/// <param name="Why">Why nothing can be told, or not all; null: all is.</param>
/// <param name="IsColoured">It is in colour; null: not known.</param>
/// <param name="Veil">Where light lies over the view; null: nothing by day to hold it against.</param>
/// <param name="Share">Share of its light that lies over the view; null likewise.</param>
/// <param name="Worst">The same where it is worst, a twentieth of the picture; null likewise.</param>
/// <param name="Black">Where black is lifted, by this picture alone.</param>
/// <param name="Reasons">Of the veil, likeliest first; empty: there is none, or too little is known.</param>
/// <param name="Sharpness">At the target; null: nothing can be told.</param>
/// <param name="Reach">At the target; null: nothing can be told.</param>
/// <param name="SignalDb">Mean level against noise; null: no noise, or no light.</param>
/// <param name="SameView">It shows what the day's picture shows; false: it was turned since; null: cannot be told, or there is
/// none.</param>
/// <param name="Target">The part of the picture that sharpness and reach are told of.</param>
public sealed record NightLook(
    NightState State,
    Message? Why,
    bool? IsColoured,
    VeilMap? Veil,
    double? Share,
    double? Worst,
    Haze? Black,
    ImmutableArray<VeilGuess> Reasons,
    NightSharpness? Sharpness,
    NightReach? Reach,
    double? SignalDb,
    bool? SameView,
    PictureRegion Target
)
{
    /// <summary>What measures.</summary>
    public const string Algorithm = "night";

    /// <summary>Its edition.</summary>
    public const int AlgorithmVersion = 2;

    /// <summary>From here a veil is told, as a share of the light: of the picture, and where it is worst; and from the third on, where it is
    /// worst, where it lies as one reason would have it lie; and from the fourth on it is said what it would be.</summary>
    public const double MostShare = 0.26,
        MostWorst = 0.45,
        MostInPattern = 0.38,
        MayBeWorst = 0.3;

    /// <summary>Of so many tiles at least the veil must be known to say that there is none.</summary>
    public const double LeastKnown = 0.4;

    /// <summary>Less is a picture full of noise, dB.</summary>
    public const double LeastSignalDb = 17;

    /// <summary>What the likeliest would be, if an eye sees the little light that lies over it, of which too little is seen to call it a veil;
    /// empty: so little, or nothing is known.</summary>
    public ImmutableArray<VeilReason> Suspects { get; init; } = [];

    /// <summary>What was seen of changing over between day and night; null: it has not.</summary>
    public SwitchTold? Switch { get; init; }

    /// <summary>What was seen of its white light; null: it has none.</summary>
    public LampTold? Lamp { get; init; }

    /// <summary>The veil is kept in so many parts of the picture, across and down.</summary>
    public const int VeilAcross = 8,
        VeilDown = 3;

    /// <summary>Name of the veil's share in a part, from the upper left.</summary>
    internal static string VeilInput(int row, int column) => string.Create(CultureInfo.InvariantCulture, $"veil_{row}_{column}");

    /// <summary>Figures that the last picture alone gives, held against the one by day: those are read again in it. What is told of a night is
    /// told of several pictures.</summary>
    /// <param name="night">The picture.</param>
    /// <param name="day">The same view by day; null: none.</param>
    /// <param name="target">What the camera is for, in shares of the picture.</param>
    public static ImmutableSortedDictionary<string, double> Alone(GreyRaster night, GreyRaster? day, PictureShare target)
    {
        var look = new NightRun(target, day, new()).Next(new(night, null));
        (string Name, double? Value)[] figures =
        [
            ("veil_share", look.Share),
            ("veil_worst", look.Worst),
            ("sharpness_ratio", look.Sharpness?.Ratio),
            ("signal_db", look.SignalDb),
            ("target_light", look.Reach?.Light),
        ];
        return figures
            .Where(f => f.Value is { } value && double.IsFinite(value))
            .ToImmutableSortedDictionary(f => OfOne + f.Name, f => Math.Round(f.Value!.Value, 4));
    }

    /// <summary>Begins the name of a figure of one picture alone.</summary>
    internal const string OfOne = "last_picture_";

    /// <summary>Figures that a reading of it keeps.</summary>
    public ImmutableSortedDictionary<string, double> Inputs()
    {
        var inputs = new Dictionary<string, double>();
        Put("veil_share", Share);
        Put("veil_worst", Worst);
        Put("sharpness_ratio", Sharpness?.Ratio);
        Put("sharpness_uncertainty", Sharpness?.Uncertainty);
        Put("target_light", Reach?.Light);
        Put("contrast_to_noise", Reach?.ContrastToNoise);
        Put("signal_db", SignalDb);
        for (var row = 0; row < VeilDown; row++)
        for (var column = 0; column < VeilAcross; column++)
            Put(VeilInput(row, column), Veil?.ShareOf(row, column, VeilDown, VeilAcross));
        foreach (var guess in Reasons.Take(3))
            Put($"chance_{guess.Reason.ToString().ToLowerInvariant()}", guess.Chance);
        return inputs.ToImmutableSortedDictionary();

        void Put(string name, double? value)
        {
            if (value is { } figure && double.IsFinite(figure))
                inputs[name] = Math.Round(figure, 4);
        }
    }
}
