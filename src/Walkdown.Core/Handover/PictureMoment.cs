namespace Walkdown.Core.Handover;

/// <summary>What a picture stands for: the place as it is, or as it was before or after work on it.</summary>
public enum PictureMoment
{
    /// <summary>Of the place.</summary>
    General,

    /// <summary>Before work.</summary>
    Before,

    /// <summary>After work.</summary>
    After,
}
